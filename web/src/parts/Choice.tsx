import { ToggleGroup } from "radix-ui";

/** A few exclusive choices, each a target for a thumb. Choosing the chosen one again clears it where that is allowed. */
export function Choice<V extends string>({
  label,
  value,
  options,
  onChange,
  clearable = false,
  hideLabel = false,
  strong = false,
}: {
  label: string;
  hideLabel?: boolean;
  /** Whether the label is read before all else. */
  strong?: boolean;
  value: string | null;
  options: readonly (readonly [value: V, words: string])[];
  onChange: (value: V | null) => void;
  clearable?: boolean;
}) {
  return (
    <div>
      <div className={hideLabel ? "sr-only" : strong ? "mb-1 text-lg font-bold" : "mb-1 text-muted"}>{label}</div>
      <ToggleGroup.Root
        type="single"
        aria-label={label}
        value={value ?? ""}
        onValueChange={(next) => (next || clearable ? onChange((next || null) as V | null) : undefined)}
        className="flex flex-wrap gap-1"
      >
        {options.map(([option, words]) => (
          <ToggleGroup.Item
            key={option}
            value={option}
            className="min-h-11 min-w-11 rounded-sm border border-hairline bg-card px-3 data-[state=on]:border-teal data-[state=on]:bg-teal-soft data-[state=on]:font-semibold data-[state=on]:text-ink"
          >
            {words}
          </ToggleGroup.Item>
        ))}
      </ToggleGroup.Root>
    </div>
  );
}
