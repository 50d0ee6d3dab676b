import { ChevronRight } from "lucide-react";
import { useState, type ReactNode } from "react";

/** A part of a section that folds to its title and what it holds. */
export function Fold({
  id,
  title,
  gist,
  open,
  children,
}: {
  id?: string;
  title: string;
  gist: string;
  open?: boolean;
  children: ReactNode;
}) {
  // Only how it stands at first: it stays as it was left.
  const [atFirst] = useState(open);
  return (
    <details id={id} open={atFirst} className="group scroll-mt-4 border-t border-hairline">
      <summary className="flex min-h-12 cursor-pointer items-center gap-3 py-2">
        <ChevronRight size={18} aria-hidden="true" className="shrink-0 text-muted group-open:rotate-90" />
        <span className="text-lg font-bold whitespace-nowrap">{title}</span>
        <span className="min-w-0 truncate text-muted">{gist}</span>
      </summary>
      <div className="grid gap-4 pb-4">{children}</div>
    </details>
  );
}
