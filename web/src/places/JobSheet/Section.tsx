import { ChevronDown, ChevronRight } from "lucide-react";
import { Collapsible } from "radix-ui";
import type { ReactNode } from "react";
import type { Schemas } from "../../api/client";

/** A step of the order of work; folded, its conclusion stands for it. */
export function Section({
  step,
  open,
  onOpen,
  children,
}: {
  step: Schemas["JobStep"];
  open: boolean;
  onOpen: (open: boolean) => void;
  children: ReactNode;
}) {
  const Chevron = open ? ChevronDown : ChevronRight;
  return (
    <Collapsible.Root asChild open={open} onOpenChange={onOpen}>
      <section id={step.id} aria-label={step.title} className="scroll-mt-4 border-t border-hairline">
        <Collapsible.Trigger className="flex min-h-14 w-full items-baseline gap-3 py-3 text-left">
          <Chevron size={20} aria-hidden="true" className="shrink-0 self-center text-muted" />
          <span className="w-24 shrink-0 text-xl font-bold">{step.title}</span>
          {!open && <span className="min-w-0 text-muted">{step.conclusion}</span>}
        </Collapsible.Trigger>
        <Collapsible.Content className="pb-6">{children}</Collapsible.Content>
      </section>
    </Collapsible.Root>
  );
}
