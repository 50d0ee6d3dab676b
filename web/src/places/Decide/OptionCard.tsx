import clsx from "clsx";
import { useState } from "react";
import type { RepairOption } from "../../api/options";
import { Button } from "../../parts/Button";
import { keepUnits } from "../../parts/words";
import { QuoteLines } from "../Coolers/Ways";
import { degree, degrees } from "../../parts/degrees";

/** One option: what it would do and what it asks, in one row; open, all that speaks against it. */
export function OptionCard({
  option,
  advised,
  chosen,
  nowC,
  money,
  onChoose,
}: {
  option: RepairOption;
  advised: boolean;
  chosen: boolean;
  nowC: number | null;
  money: (minor: number) => string;
  onChoose: (on: boolean) => void;
}) {
  const [open, setOpen] = useState(false);
  const { temperatureC: chip, quote } = option;
  // What it gains only if it is that stands in grey while that is not likely.
  const unlikely = option.works != null && option.works < 0.5 && option.id !== "leave";
  return (
    <li className={clsx("border-t-2 py-3", advised ? "border-teal" : "border-hairline")}>
      <div className="grid grid-cols-2 items-baseline gap-x-6 gap-y-2 lg:grid-cols-[minmax(0,1fr)_7rem_5rem_7.5rem_8.5rem_11.5rem]">
        <div className="col-span-2 min-w-0 lg:col-span-1">
          <h2 className="text-xl leading-tight font-bold">
            {keepUnits(option.title)}
            {advised && <span className="ml-3 text-base text-teal">advised</span>}
          </h2>
          <p className="m-0">{keepUnits(option.says)}</p>
          {option.tooDear && (
            <p className="m-0 font-semibold text-amber">{`Its parts cost ${Math.round(100 * option.priceShare!)} % of the chip’s price.`}</p>
          )}
        </div>
        <Figure
          label="chip"
          value={chip ? degrees(chip.value) : "not known"}
          small={
            chip && chip.high - chip.low >= 1
              ? `${degree(chip.low)} to ${degree(chip.high)}`
              : chip && nowC !== null && Math.round(chip.value) === Math.round(nowC)
                ? "as now"
                : undefined
          }
          faint={unlikely}
          hot={chip !== null && nowC !== null && chip.value > nowC + 1}
        />
        <Figure
          faint={unlikely}
          label="clock"
          value={
            option.clockLossPercent == null
              ? "not known"
              : option.clockLossPercent < 1
                ? "full"
                : `−${Math.round(option.clockLossPercent)} %`
          }
        />
        <Figure
          faint={unlikely}
          label="sound"
          value={option.noiseDba == null ? "not known" : `${Math.round(option.noiseDba)} dB(A)`}
          small={option.noiseHalfDba == null ? undefined : `± ${option.noiseHalfDba}`}
        />
        <Figure
          label={quote.minutes > 0 ? `${Math.round(quote.minutes)} min of labour` : "nothing to pay"}
          value={money(quote.totalMinor)}
          small={option.priceShare == null ? undefined : `${Math.round(100 * option.priceShare)}\u00a0% of the chip`}
        />
        <div className="col-span-2 flex flex-wrap gap-2 lg:col-span-1">
          <Button kind={advised && !chosen ? "main" : "plain"} aria-pressed={chosen} onClick={() => onChoose(!chosen)}>
            {chosen ? "Chosen ✓" : "The owner chose it"}
          </Button>
          <Button kind="quiet" aria-expanded={open} onClick={() => setOpen(!open)}>
            {open ? "Less" : "All of it"}
          </Button>
        </div>
      </div>
      {open && (
        <div className="mt-2 grid gap-x-8 gap-y-3 md:grid-cols-2">
          <dl className="m-0 grid grid-cols-[9rem_minmax(0,1fr)] gap-x-4 gap-y-1">
            {(
              [
                ["Should fix it", option.works == null ? "cannot be told" : `${Math.round(100 * option.works)} %`],
                [
                  "Away",
                  option.days === 0 ? "the same day" : option.days === 1 ? "about a day" : `about ${option.days} days`,
                ],
                ["Lasts", option.lasts],
                ["Risk", option.risk],
                ["Cannot be undone", option.undone ?? "nothing"],
                ["Warranty", option.warranty ?? "none that runs is noted"],
                [
                  "Can fail",
                  option.failurePoints == null
                    ? "not known"
                    : option.failurePoints === 1
                      ? "one part"
                      : `${option.failurePoints} parts`,
                ],
                ["If it does not help", option.returns ? "The part goes back for nothing." : null],
              ] as const
            ).map(
              ([label, words]) =>
                words && (
                  <div key={label} className="contents">
                    <dt className="text-muted">{label}</dt>
                    <dd className="m-0">{keepUnits(words)}</dd>
                  </div>
                ),
            )}
          </dl>
          {quote.lines.length > 0 && (
            <div className="max-w-96">
              <QuoteLines quote={quote} money={money} />
            </div>
          )}
        </div>
      )}
    </li>
  );
}

function Figure({
  label,
  value,
  small,
  hot = false,
  faint = false,
}: {
  label: string;
  value: string;
  small?: string;
  hot?: boolean;
  faint?: boolean;
}) {
  const known = value !== "not known";
  return (
    <p className="m-0">
      <span
        className={clsx(
          "block font-mono whitespace-nowrap",
          !known ? "text-base text-muted" : faint ? "text-xl text-muted" : "text-2xl font-bold",
          hot && "text-copper-text",
        )}
      >
        {keepUnits(value)}
      </span>
      <span className="block text-sm text-muted">{small ? `${label} · ${small}` : label}</span>
    </p>
  );
}
