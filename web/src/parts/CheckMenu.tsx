import { Check } from "lucide-react";
import { DropdownMenu } from "radix-ui";
import type { ReactNode } from "react";
import { buttonLook } from "./Button";

export interface CheckItem {
  id: string;
  words: string;
  checked: boolean;
}

/** A button that opens a list of things to switch on and off; it stays open while one is switching. */
export function CheckMenu({
  trigger,
  groups,
  onToggle,
}: {
  trigger: ReactNode;
  groups: readonly (readonly CheckItem[])[];
  onToggle: (id: string, checked: boolean) => void;
}) {
  return (
    <DropdownMenu.Root modal={false}>
      <DropdownMenu.Trigger className={buttonLook("plain")}>{trigger}</DropdownMenu.Trigger>
      <DropdownMenu.Portal>
        <DropdownMenu.Content
          align="end"
          sideOffset={4}
          className="z-20 max-h-[70vh] max-w-96 min-w-56 overflow-y-auto rounded-sm border border-edge bg-card py-1 text-ink"
        >
          {groups
            .filter((group) => group.length > 0)
            .map((group, index) => (
              <DropdownMenu.Group key={group[0]!.id} className={index > 0 ? "border-t border-hairline" : undefined}>
                {group.map((item) => (
                  <DropdownMenu.CheckboxItem
                    key={item.id}
                    checked={item.checked}
                    onCheckedChange={(checked) => onToggle(item.id, checked)}
                    onSelect={(event) => event.preventDefault()}
                    className="flex min-h-11 cursor-pointer items-center gap-3 px-4 outline-none data-[highlighted]:bg-teal-soft"
                  >
                    <span className="w-5 shrink-0">
                      <DropdownMenu.ItemIndicator>
                        <Check size={20} aria-hidden="true" />
                      </DropdownMenu.ItemIndicator>
                    </span>
                    {item.words}
                  </DropdownMenu.CheckboxItem>
                ))}
              </DropdownMenu.Group>
            ))}
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  );
}
