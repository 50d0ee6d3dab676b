import { useState } from "react";
import { useSteering, type AirLook, type AirPlan, type AirSheet, type Steering } from "../../api/air";
import { Button } from "../../parts/Button";
import { Choice } from "../../parts/Choice";
import { keepUnits } from "../../parts/words";
import { SteeringCurve } from "../../pictures/SteeringCurve";
import { sourcesOf, sourceWords } from "./airWords";
import { degrees, unitTold } from "../../parts/degrees";

/** A header's curve, drawn by hand, and the one that a wanted limit and a wanted noise call for: points to type into the firmware. */
export function Steer({
  sheet,
  plan,
  look,
  onChange,
}: {
  sheet: AirSheet;
  plan: AirPlan;
  look: AirLook | undefined;
  onChange: (plan: AirPlan, goesOn?: boolean) => void;
}) {
  const [name, setName] = useState(plan.headers.find((header) => header.steering)?.name ?? plan.headers[0]?.name);
  const header = plan.headers.find((one) => one.name === name) ?? plan.headers[0];
  if (!header) {
    return <p>The board has no header. Plug the fans into the supply, and they run full.</p>;
  }
  const set = (steering: Steering | null, goesOn = false) =>
    onChange(
      { ...plan, headers: plan.headers.map((one) => (one.name === header.name ? { ...one, steering } : one)) },
      goesOn,
    );
  const { steering } = header;
  const now = steering && look ? readBy(steering.source, look) : null;
  return (
    <div className="grid grid-cols-[minmax(0,1fr)] gap-x-10 gap-y-6 lg:grid-cols-2">
      <section aria-label="The curve">
        <div className="flex flex-wrap gap-x-6 gap-y-2">
          <Choice
            label="Header"
            value={header.name}
            options={plan.headers.map((one) => [one.name, one.name] as const)}
            onChange={(wanted) => setName(wanted ?? header.name)}
          />
          <Choice
            label="Follows"
            value={steering?.source ?? "full"}
            options={[...sourcesOf(sheet), ["full", "nothing: full"] as const]}
            onChange={(source) =>
              source === "full" ? set(null) : source && set(steering ? { ...steering, source } : sheet.curves[source]!)
            }
          />
        </div>
        {steering ? (
          <>
            <SteeringCurve
              points={steering.points}
              nowC={now}
              onChange={(points) => set({ ...steering, points }, true)}
            />
            <div className="flex flex-wrap gap-3">
              <Button
                disabled={steering.points.length >= 8}
                onClick={() => set({ ...steering, points: withOneMore(steering.points) })}
              >
                One more point
              </Button>
              <Button
                disabled={steering.points.length <= 1}
                onClick={() => set({ ...steering, points: steering.points.slice(0, -1) })}
              >
                One fewer
              </Button>
              <Button onClick={() => set(sheet.curves[steering.source]!)}>The usual curve</Button>
            </div>
            {now !== null && (
              <p className="mt-2 mb-0 text-muted">
                The dashed line is what it reads now: {sourceWords(steering.source)}, {degrees(now)}
                {unitTold() === "fahrenheit" && `, which firmware calls ${now.toFixed(0)} °C`}.
              </p>
            )}
          </>
        ) : (
          <p>It always gives all. Choose what it follows, and it can be steered.</p>
        )}
      </section>
      {steering && (
        <Wanted key={header.name} sheet={sheet} plan={plan} name={header.name} source={steering.source} onTake={set} />
      )}
    </div>
  );
}

const readBy = (source: string, { air }: AirLook) =>
  source === "cpu"
    ? (air.processorC ?? null)
    : source === "coolant"
      ? (air.liquidC ?? null)
      : source === "gpu"
        ? (air.cardC ?? null)
        : source === "cpu-gpu"
          ? Math.max(air.processorC ?? 0, air.cardC ?? 0)
          : air.caseAirC;

function withOneMore(points: Steering["points"]): Steering["points"] {
  const last = points[points.length - 1]!;
  return [...points, { c: Math.min(120, last.c + 8), percent: Math.min(100, last.percent + 10) }];
}

function Wanted({
  sheet,
  plan,
  name,
  source,
  onTake,
}: {
  sheet: AirSheet;
  plan: AirPlan;
  name: string;
  source: string;
  onTake: (steering: Steering) => void;
}) {
  const [limitC, setLimitC] = useState(Math.round(sheet.build.processor.temperatureLimitC - 12));
  const [noiseDba, setNoiseDba] = useState<number | null>(36);
  const advice = useSteering(sheet, plan, { header: name, source, limitC, noiseDba });
  const found = advice.data;
  return (
    <section aria-label="Points for the firmware">
      <h2 className="text-xl font-bold">Points for the firmware</h2>
      <label className="mt-2 grid grid-cols-[9rem_minmax(0,1fr)_5.5rem] items-center gap-3">
        <span className="text-muted">Processor at most</span>
        <input
          type="range"
          min={45}
          max={Math.round(sheet.build.processor.temperatureLimitC)}
          value={limitC}
          aria-valuetext={degrees(limitC)}
          onChange={(event) => setLimitC(Number(event.target.value))}
          className="min-h-11 accent-teal"
        />
        <output className="text-right font-mono">{degrees(limitC)}</output>
      </label>
      <label className="grid grid-cols-[9rem_minmax(0,1fr)_5.5rem] items-center gap-3">
        <span className="text-muted">Noise, at most</span>
        <input
          type="range"
          min={18}
          max={55}
          value={noiseDba ?? 55}
          aria-valuetext={noiseDba === null ? "does not matter" : `${noiseDba} dB(A)`}
          onChange={(event) => setNoiseDba(Number(event.target.value) >= 55 ? null : Number(event.target.value))}
          className="min-h-11 accent-teal"
        />
        <output className="text-right font-mono">{noiseDba === null ? "open" : `${noiseDba} dB(A)`}</output>
      </label>
      {advice.isError && <p role="alert">{advice.error.message}</p>}
      {found && (
        <>
          <p className={`my-3 text-lg font-semibold ${found.holds ? "" : "border-l-4 border-amber pl-3 text-amber"}`}>
            {keepUnits(found.sentence)}
          </p>
          <table className="w-full max-w-sm border-collapse">
            <thead className="text-muted">
              <tr>
                <th scope="col" className="py-1 text-left font-normal">
                  At
                </th>
                <th scope="col" className="py-1 text-right font-normal">
                  Fan
                </th>
              </tr>
            </thead>
            <tbody className="font-mono text-2xl">
              {found.steering.points.map((point) => (
                <tr key={point.c} className="border-t border-hairline">
                  <td className="py-1">{point.c} °C</td>
                  <td className="py-1 text-right">{point.percent} %</td>
                </tr>
              ))}
            </tbody>
          </table>
          <p className="my-2 text-muted">
            {found.restingDba < 1 ? "Not heard at rest" : `${found.restingDba.toFixed(0)} dB(A) at rest`}; below the
            first point the fan stays at it.
          </p>
          <Button kind="main" onClick={() => onTake(found.steering)}>
            Take these points
          </Button>
        </>
      )}
    </section>
  );
}
