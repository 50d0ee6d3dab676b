import { RotateCw, Trash2 } from "lucide-react";
import type { AirLook, AirPlan, AirSheet, PlannedFan } from "../../api/air";
import { useParts } from "../../api/parts";
import { Button } from "../../parts/Button";
import { Choice } from "../../parts/Choice";
import { drawsIn, fanNames } from "./airWords";

const box = "min-h-11 w-full rounded-sm border border-edge bg-card px-2";

/** What is chosen in the picture, and all that can be done with it by hand or keyboard. */
export function Chosen({
  id,
  sheet,
  plan,
  look,
  onChange,
  onGone,
}: {
  id: string;
  sheet: AirSheet;
  plan: AirPlan;
  look: AirLook | undefined;
  onChange: (plan: AirPlan) => void;
  onGone: () => void;
}) {
  const names = fanNames(plan);
  const state = look?.air.fans.find((one) => one.id === id);
  const findings = look?.findings.filter((one) => one.subject === id) ?? [];
  const fan = plan.fans.find((one) => one.id === id);
  const hung = id === "radiator" ? plan.cooler : undefined;
  if (!fan && !hung?.place) {
    return null;
  }
  const inward = fan ? fan.inward : hung!.inward;
  const setFan = (change: Partial<PlannedFan>) =>
    onChange({ ...plan, fans: plan.fans.map((one) => (one.id === id ? { ...one, ...change } : one)) });
  const setHung = (change: Partial<NonNullable<AirPlan["cooler"]>>) =>
    onChange({ ...plan, cooler: { ...plan.cooler!, ...change } });
  const places = fan
    ? sheet.places.map(({ place }) => place)
    : (sheet.build.case?.radiators ?? []).map(({ place }) => place);
  return (
    <section aria-label="What is chosen" className="border-l-4 border-teal pl-4">
      <h2 className="text-xl font-bold">{names.get(id)}</h2>
      {state && (
        <p className="m-0 text-muted">
          {Math.abs(state.inflowM3PerH).toFixed(0)} m³/h {state.inflowM3PerH > 0 ? "in" : "out"},{" "}
          {Math.round(state.rpm / 10) * 10} rpm
          {state.overcome && <strong className="text-amber"> against its own direction: the others overcome it</strong>}
        </p>
      )}
      {findings.map((one) => (
        <p key={one.message} className="my-1 border-l-4 border-amber pl-3 font-semibold text-amber">
          {one.message}
        </p>
      ))}
      <div className="mt-3 grid grid-cols-[minmax(0,1fr)] gap-3">
        <Choice
          label="Place"
          value={fan ? fan.place : (hung!.place ?? null)}
          options={places.map((place) => [place, place] as const)}
          onChange={(place) =>
            place && (fan ? setFan({ place, inward: drawsIn(place) }) : setHung({ place, inward: drawsIn(place) }))
          }
        />
        <div className="flex flex-wrap gap-3">
          <Button onClick={() => (fan ? setFan({ inward: !inward }) : setHung({ inward: !inward }))}>
            <RotateCw size={18} aria-hidden="true" /> Turn it round: it blows {inward ? "in" : "out"}
          </Button>
          {fan && (
            <Button
              onClick={() => {
                onChange({ ...plan, fans: plan.fans.filter((one) => one.id !== id) });
                onGone();
              }}
            >
              <Trash2 size={18} aria-hidden="true" /> Take it out
            </Button>
          )}
        </div>
        {fan && <FanSize fan={fan} sheet={sheet} onSet={setFan} />}
        <label>
          <span className="text-muted">Plugged into</span>
          <select
            value={(fan ? fan.header : hung!.fanHeader) ?? ""}
            onChange={(event) =>
              fan ? setFan({ header: event.target.value || null }) : setHung({ fanHeader: event.target.value || null })
            }
            className={box}
          >
            {plan.headers.map((header) => (
              <option key={header.name} value={header.name}>
                {header.name}
              </option>
            ))}
            <option value="">the supply: always full</option>
          </select>
        </label>
      </div>
    </section>
  );
}

/** Another size, or another fan of the workshop's. */
function FanSize({
  fan,
  sheet,
  onSet,
}: {
  fan: PlannedFan;
  sheet: AirSheet;
  onSet: (change: Partial<PlannedFan>) => void;
}) {
  const parts = useParts();
  const sizes = sheet.places.find(({ place }) => place === fan.place)?.sizesMm ?? [];
  const known = (parts.data ?? []).filter(
    ({ kind, retiredAt, values: { fan: one } }) =>
      kind === "fan" && retiredAt === null && one?.sizeMm && sizes.includes(one.sizeMm),
  );
  const now = known.find(
    ({ values: { fan: one } }) =>
      one!.sizeMm === fan.sizeMm && one!.maxRpm === fan.maxRpm && one!.noiseAtMaxDba === fan.noiseAtMaxDba,
  );
  return (
    <label>
      <span className="text-muted">Which fan</span>
      <select
        value={now?.id ?? ""}
        onChange={(event) => {
          const chosen = known.find((part) => part.id === event.target.value)?.values.fan;
          if (chosen) {
            const { sizeMm, maxRpm, minRpm = null, noiseAtMaxDba = null, currentA = null } = chosen;
            onSet({ sizeMm, maxRpm, minRpm, noiseAtMaxDba, currentA });
          } else {
            const size = Number(event.target.value.replace("size-", ""));
            onSet({ sizeMm: size, noiseAtMaxDba: null, currentA: null });
          }
        }}
        className={box}
      >
        {!now && (
          <option value="">
            {fan.sizeMm} mm, {fan.maxRpm} rpm at full
          </option>
        )}
        {sizes
          .filter((size) => size !== fan.sizeMm)
          .map((size) => (
            <option key={size} value={`size-${size}`}>
              the same with {size} mm
            </option>
          ))}
        {known.map((part) => (
          <option key={part.id} value={part.id}>
            {part.name}
          </option>
        ))}
      </select>
    </label>
  );
}
