import clsx from "clsx";
import type { Schemas } from "../../api/client";
import type { Candidate } from "../../api/coolers";
import { Button } from "../../parts/Button";
import { keepUnits } from "../../parts/words";
import { ExpectedLine, HeatStaircase, type Staircase } from "../../pictures/HeatStaircase";
import { QuoteLines } from "./Ways";
import { degree, degrees, degreesBy, degreeSign, spanOf } from "../../parts/degrees";

/** A cooler in the list: what it does, largest; touched, all that is known of it. */
export function CandidateRow({
  one,
  money,
  limitC,
  open,
  onOpen,
  beside,
  onBeside,
  quote,
  mostSharePercent,
  today,
  seen,
  taken,
  onTake,
}: {
  one: Candidate;
  /** What this workshop has seen of its series. */
  seen?: Schemas["SeenHere"];
  quote?: Schemas["Quote"];
  /** More of the chip’s price the workshop calls too dear; null for no limit. */
  mostSharePercent: number | null;
  /** The heat path as measured today; null without a run. */
  today: Staircase | null;
  /** Whether it is the one that goes on. */
  taken: boolean;
  /** Left out where there is no job to note it on. */
  onTake?: () => void;
  money: (minor: number) => string;
  limitC: number;
  open: boolean;
  onOpen: (open: boolean) => void;
  beside: boolean;
  onBeside: () => void;
}) {
  return (
    <li id={`cooler-${one.id}`} className="border-t border-hairline py-2">
      <button type="button" aria-expanded={open} onClick={() => onOpen(!open)} className="block w-full text-left">
        <span className="flex flex-wrap items-baseline gap-x-5">
          <span className="min-w-48 grow text-xl font-bold">
            {one.name}
            {one.isCurrent && <span className="font-normal text-copper-text"> is on it</span>}
            {taken && <span className="font-normal text-teal"> to be fitted</span>}
          </span>
          <span className="font-mono text-3xl font-bold whitespace-nowrap">
            <span className={clsx(one.throttles && "text-copper-text")}>
              {degree(Math.min(one.temperatureC.value, limitC))}
            </span>
            <span className="text-lg font-normal text-muted"> {degreeSign()}</span>
          </span>
          <span className="w-20 text-right font-mono whitespace-nowrap">{one.noiseDba.toFixed(0)} dB(A)</span>
          <span className="w-32 text-right font-mono text-lg whitespace-nowrap">
            {one.isCurrent ? "—" : one.priceMinor == null ? "no price" : money(one.priceMinor)}
            {!one.isCurrent && one.priceShare != null && (
              <span className="block text-base text-muted">{`${Math.round(100 * one.priceShare)} % of chip`}</span>
            )}
          </span>
        </span>
        <span className="block text-muted">
          {keepUnits(one.why)}
          {one.place && ` Radiator at the ${one.place}.`}
          {one.fanRaisedMm > 0 && ` Fan raised by ${one.fanRaisedMm} mm.`}
        </span>
        {one.reasons.map((reason) => (
          <span key={reason.code} className="block text-amber">
            {reason.message}
          </span>
        ))}
        {seen && <span className={clsx("block", seen.early && "text-amber")}>{keepUnits(seen.sentence)}</span>}
        {mostSharePercent !== null && !one.isCurrent && 100 * (one.priceShare ?? 0) > mostSharePercent && (
          <span className="block text-amber">
            {`It costs ${Math.round(100 * one.priceShare!)} % of the chip’s price; the workshop’s limit is ${mostSharePercent} %.`}
          </span>
        )}
      </button>
      <label className="-mt-1 flex min-h-11 w-fit items-center gap-3">
        <input type="checkbox" checked={beside} onChange={onBeside} className="size-6 accent-teal" />
        <span>side by side</span>
      </label>
      {open && (
        <>
          {onTake && !one.isCurrent && (
            <Button kind="main" onClick={onTake} aria-pressed={taken} className="mt-1 mb-2">
              {taken ? "Not this one after all" : "Fit this one"}
            </Button>
          )}
          <Details one={one} money={money} />
          <div className="mt-3 grid gap-3">
            {one.staircase && (
              <div>
                <h3 className="font-bold">
                  Predicted
                  {today && `, before today’s ${degrees(today.chipC)} at ${today.powerW.toFixed(0)} W as an outline`}
                </h3>
                <HeatStaircase now={one.staircase} before={today} limitC={limitC} paper />
                {one.staircase.expected && <ExpectedLine expected={one.staircase.expected} />}
              </div>
            )}
            {quote && quote.lines.length > 0 && (
              <div className="max-w-sm">
                <h3 className="font-bold">Put on, ready to go</h3>
                <QuoteLines quote={quote} money={money} />
              </div>
            )}
          </div>
        </>
      )}
    </li>
  );
}

function Details({ one, money }: { one: Candidate; money: (minor: number) => string }) {
  const rows = detailsOf(one, money);
  return (
    <dl className="m-0 mt-1 grid gap-x-6 gap-y-1 sm:grid-cols-[13rem_minmax(0,1fr)]">
      {rows.map(([name, value]) => (
        <div key={name} className="col-span-full grid grid-cols-subgrid">
          <dt className="text-muted">{name}</dt>
          <dd className="m-0">{value}</dd>
        </div>
      ))}
    </dl>
  );
}

/** What is known of a candidate, as name and words; the same rows for every one, so that they can stand side by side. */
export function detailsOf(one: Candidate, money: (minor: number) => string): [string, string][] {
  const between = (range: Candidate["temperatureC"]) =>
    `${degrees(range.value)}, between ${degree(range.low)} and ${degree(range.high)}`;
  const card = one.graphicsChangeC;
  return [
    ["Chip", between(one.temperatureC)],
    [
      "In the hottest room",
      `${between(one.hottestRoomTemperatureC)}${one.throttlesInHottestRoom ? ": it throttles" : ""}`,
    ],
    [
      "Room left",
      (one.left ?? []).length === 0
        ? "not measured"
        : one.left!.map((room) => `${room.leftMm} mm to ${room.to}`).join(", "),
    ],
    ["Headroom", `${one.headroomW.toFixed(0)} W${one.moreThanUseful ? ", more than the chip can use" : ""}`],
    ["Noise", `${one.noiseDba.toFixed(0)} dB(A)${one.fanRpm == null ? "" : ` with its fans at ${one.fanRpm} rpm`}`],
    [
      "Graphics card",
      card == null
        ? "—"
        : Math.abs(card) < 0.5
          ? "as it is now"
          : `${degreesBy(Math.abs(card))} ${card > 0 ? "warmer" : "cooler"}`,
    ],
    [
      "Price",
      one.isCurrent
        ? "it is paid for"
        : one.priceMinor == null
          ? "not known"
          : `${money(one.priceMinor)}${one.priceShare == null ? "" : `, ${(100 * one.priceShare).toFixed(0)} % of the chip’s`}`,
    ],
    [
      "A degree more",
      one.nextBetter == null
        ? "—"
        : `${money(one.nextBetter.minorPerC / spanOf(1))} a degree, for ${degreesBy(one.nextBetter.gainsC)} less`,
    ],
    ["Parts that can fail", String(one.failurePoints)],
    [
      "Known from",
      one.measured
        ? "this bench"
        : one.byClaimAlone
          ? `its maker’s claim alone${one.claimedW == null ? "" : ` of ${one.claimedW} W`}`
          : "a catalogue",
    ],
    ["Plugs", one.plugs.join(" ") || "—"],
    ["Mind", (one.notes ?? []).join(" ") || "—"],
  ];
}
