import { useMemo } from "react";
import type { AirPlan, AirSheet } from "../../api/air";
import { useParts, type Part } from "../../api/parts";
import { drawsIn } from "./airWords";

const known = (parts: readonly Part[] | undefined) =>
  (parts ?? []).filter((part) => part.kind === "cooler" && part.retiredAt === null && part.values.cooler);

/** The machine with the cooler that a plan tries in place of its own. */
export function useTriedCooler(sheet: AirSheet, plan: AirPlan): AirSheet {
  const parts = useParts();
  const model = plan.cooler?.model;
  const tried = model ? known(parts.data).find((part) => part.name === model) : undefined;
  return useMemo(
    () => (tried ? { ...sheet, cooler: { ...tried.values.cooler!, id: tried.id, name: tried.name } } : sheet),
    [sheet, tried],
  );
}

/** Another cooler, or another size of radiator, tried in the same case. */
export function OtherCooler({
  sheet,
  plan,
  onChange,
}: {
  sheet: AirSheet;
  plan: AirPlan;
  onChange: (plan: AirPlan) => void;
}) {
  const coolers = known(useParts().data);
  const take = (name: string) => {
    const cooler = coolers.find((part) => part.name === name)?.values.cooler ?? sheet.cooler;
    const now = plan.cooler ?? sheet.start.cooler;
    const fanHeader = now?.fanHeader ?? plan.headers[0]?.name ?? null;
    if (cooler?.kind !== "liquid") {
      onChange({ ...plan, cooler: { place: null, inward: false, fanHeader, pumpHeader: null, model: name || null } });
      return;
    }
    // Where it hangs now if it goes there, else where its size does.
    const fits = (sheet.build.case?.radiators ?? []).filter((one) => one.sizesMm.includes(cooler.radiatorSizeMm ?? 0));
    const stays = now?.place && (fits.length === 0 || fits.some((one) => one.place === now.place));
    const place = stays ? now.place! : (fits[0]?.place ?? "top");
    const pump = now?.pumpHeader ?? plan.headers.find((header) => header.steering === null)?.name ?? null;
    onChange({
      ...plan,
      fans: plan.fans.filter((fan) => stays || fan.place !== place),
      cooler: { place, inward: stays ? now.inward : drawsIn(place), fanHeader, pumpHeader: pump, model: name || null },
    });
  };
  return (
    <label>
      <span className="text-muted">Cooler</span>
      <select
        value={plan.cooler?.model ?? ""}
        onChange={(event) => take(event.target.value)}
        className="min-h-11 w-full rounded-sm border border-edge bg-card px-2"
      >
        <option value="">{sheet.cooler ? `${sheet.cooler.name}, as it is` : "not known"}</option>
        {coolers
          .filter((part) => part.name !== sheet.cooler?.name)
          .map((part) => (
            <option key={part.id} value={part.name}>
              {part.name}
            </option>
          ))}
      </select>
    </label>
  );
}
