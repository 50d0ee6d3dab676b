import clsx from "clsx";
import type { AirLook, AirPlan, AirSheet } from "../../api/air";
import { fanNames, sourceWords } from "./airWords";

const box = "min-h-11 rounded-sm border border-edge bg-card px-2";

function followed(plan: AirPlan, name: string): string {
  const source = plan.headers.find((one) => one.name === name)?.steering?.source;
  return source === undefined ? "; always full" : `; follows ${sourceWords(source)}`;
}

/** Which fan goes where, what each header carries, and what shares one. */
export function Headers({
  sheet,
  plan,
  look,
  onChange,
}: {
  sheet: AirSheet;
  plan: AirPlan;
  look: AirLook | undefined;
  onChange: (plan: AirPlan) => void;
}) {
  const names = fanNames(plan);
  const plugs: { id: string; at: string | null | undefined; set: (name: string | null) => AirPlan }[] = [
    ...plan.fans.map((fan) => ({
      id: fan.id,
      at: fan.header,
      set: (header: string | null) => ({
        ...plan,
        fans: plan.fans.map((one) => (one.id === fan.id ? { ...one, header } : one)),
      }),
    })),
    ...(plan.cooler && (sheet.cooler?.fans?.length ?? 0) > 0
      ? [
          {
            id: "cooler",
            at: plan.cooler.fanHeader,
            set: (fanHeader: string | null) => ({ ...plan, cooler: { ...plan.cooler!, fanHeader } }),
          },
        ]
      : []),
    ...(plan.cooler && sheet.cooler?.kind === "liquid"
      ? [
          {
            id: "pump",
            at: plan.cooler.pumpHeader,
            set: (pumpHeader: string | null) => ({ ...plan, cooler: { ...plan.cooler!, pumpHeader } }),
          },
        ]
      : []),
  ];
  return (
    <div className="grid grid-cols-[minmax(0,1fr)] gap-x-10 gap-y-6 lg:grid-cols-2">
      <section aria-label="What goes where">
        <h2 className="text-xl font-bold">What goes where</h2>
        <div className="grid gap-2">
          {plugs.map(({ id, at, set }) => (
            <label
              key={id}
              className="grid grid-cols-[minmax(0,1fr)_13rem] items-center gap-3 border-t border-hairline pt-2"
            >
              <span>{names.get(id)}</span>
              <select
                aria-label={names.get(id)}
                value={at ?? ""}
                onChange={(event) => onChange(set(event.target.value || null))}
                className={box}
              >
                {plan.headers.map((header) => (
                  <option key={header.name} value={header.name}>
                    {header.name}
                  </option>
                ))}
                <option value="">the supply: full</option>
              </select>
            </label>
          ))}
        </div>
      </section>
      <section aria-label="What each header carries">
        <h2 className="text-xl font-bold">What each header carries</h2>
        <dl className="m-0 grid gap-2">
          {(look?.headers ?? []).map((load) => (
            <div key={load.name} className="border-t border-hairline pt-2">
              <dt className="flex flex-wrap items-baseline justify-between gap-3">
                <span className="text-lg font-bold">{load.name}</span>
                <span className={clsx("font-mono text-lg", load.overloaded && "font-bold text-amber")}>
                  {load.loads.length === 0
                    ? "free"
                    : `${load.currentA == null ? "?" : load.currentA.toFixed(2)} of ${load.maxCurrentA == null ? "?" : load.maxCurrentA.toFixed(1)} A`}
                </span>
              </dt>
              <dd className="m-0 text-muted">
                {load.loads.length > 0 && (
                  <>
                    {load.loads.map((id) => names.get(id) ?? id).join(", ")}
                    {load.splitter && " by a splitter"}
                    {load.name !== "supply" && followed(plan, load.name)}.
                  </>
                )}
                {load.sentences.map((sentence) => (
                  <span
                    key={sentence}
                    className={clsx(
                      "block",
                      load.overloaded || sentence.startsWith("The pump") ? "text-amber" : "text-ink",
                    )}
                  >
                    {sentence}
                  </span>
                ))}
              </dd>
            </div>
          ))}
        </dl>
      </section>
    </div>
  );
}
