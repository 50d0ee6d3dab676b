import { MoonStar, RotateCcw } from "lucide-react";
import { useId } from "react";
import type { CoolerAnswer, WhatIf } from "../../api/coolers";
import { Button } from "../../parts/Button";
import { Choice } from "../../parts/Choice";
import { celsiusOf, degreeSign, pointOf } from "../../parts/degrees";
import { minorIn, useCurrency } from "../../parts/useMoney";
import { ticks } from "../../pictures/TradeOff";

/** What may be heard in a bedroom at night, dB(A) at 1 m. */
const quietNightDba = 26;

interface Asked {
  answer: CoolerAnswer;
  what: WhatIf;
  onChange: (what: WhatIf) => void;
}

const setter = (what: WhatIf, onChange: Asked["onChange"]) => (change: Partial<WhatIf>) =>
  onChange(withoutOpen({ ...what, ...change }));

/** The school that orders the list, a night's silence, and the way back to how it is. */
export function Schools({ answer, what, onChange }: Asked) {
  const { schools } = answer;
  const set = setter(what, onChange);
  return (
    <section aria-label="School" className="mt-4 border-y border-hairline py-3">
      <div className="flex flex-wrap items-end justify-between gap-x-6 gap-y-3">
        <Choice
          label="School"
          value={answer.school}
          options={schools.map((school) => [school.id, school.title] as const)}
          onChange={(school) => set({ school: school ?? undefined })}
        />
        <Button
          aria-pressed={what.maxNoiseDba === quietNightDba}
          onClick={() => set({ maxNoiseDba: what.maxNoiseDba === quietNightDba ? undefined : quietNightDba })}
          className="ml-auto aria-pressed:border-teal aria-pressed:bg-teal-soft aria-pressed:font-semibold"
        >
          <MoonStar size={18} aria-hidden="true" /> Quiet night
        </Button>
        <Button onClick={() => onChange({})} disabled={Object.keys(what).length === 0}>
          <RotateCcw size={18} aria-hidden="true" /> As it is
        </Button>
      </div>
      <p className="mt-1 mb-0 text-muted">{schools.find((school) => school.id === answer.school)?.reason}</p>
    </section>
  );
}

/** From a little to the dearest, in steps that a thumb can tell apart; undefined where no price is known. */
export function rangeOf(prices: readonly number[]) {
  const dearest = Math.max(0, ...prices);
  const step = ticks(0, dearest, 40)[1];
  return dearest > 0 && step ? { low: 2 * step, high: Math.ceil(dearest / step) * step, step } : undefined;
}

/** What would be if: moved by a thumb, answered beside it at once. */
export function WhatIfStrip({ answer, what, onChange }: Asked) {
  const { build } = answer;
  const set = setter(what, onChange);
  const fans = build.case?.fans ?? [];
  const minor = minorIn(useCurrency());
  const spent = rangeOf(answer.match.candidates.map((one) => (one.priceMinor ?? 0) / minor));
  return (
    <section aria-label="What if">
      <h2 className="text-xl font-bold">What if</h2>
      <div className="grid gap-y-0">
        <Slider label="Room" {...ofDegrees(10, 40, what.roomC ?? build.roomC, (roomC) => set({ roomC }))} />
        <Slider
          label="Hottest room"
          {...ofDegrees(15, 45, what.hottestRoomC ?? build.hottestRoomC ?? build.roomC, (hottestRoomC) =>
            set({ hottestRoomC }),
          )}
        />
        <Slider
          label="Chip draws"
          unit="W"
          low={15}
          high={Math.max(300, Math.round(build.processor.sustainedPowerW * 1.3))}
          step={5}
          value={what.sustainedPowerW ?? build.processor.sustainedPowerW}
          onMove={(sustainedPowerW) => set({ sustainedPowerW })}
        />
        <Slider
          label="Memory height"
          unit="mm"
          low={25}
          high={60}
          value={what.memoryHeightMm ?? build.memory?.heightMm ?? undefined}
          onMove={(memoryHeightMm) => set({ memoryHeightMm })}
        />
        <Slider
          label="Noise, at most"
          unit="dB(A)"
          low={18}
          high={50}
          value={what.maxNoiseDba}
          onMove={(maxNoiseDba) => set({ maxNoiseDba })}
        />
        {spent && (
          <Slider
            label="Price, at most"
            unit=""
            {...spent}
            value={what.maxPriceMinor === undefined ? undefined : what.maxPriceMinor / minor}
            onMove={(whole) => set({ maxPriceMinor: Math.round(whole * minor) })}
          />
        )}
        {fans.length > 0 && (
          <Slider
            label="Case fans"
            unit="rpm"
            low={300}
            high={2400}
            step={50}
            value={what.caseFanRpm ?? fans.reduce((sum, fan) => sum + fan.rpm, 0) / fans.length}
            onMove={(caseFanRpm) => set({ caseFanRpm })}
          />
        )}
      </div>
    </section>
  );
}

/** A slider of temperatures: moved in whole degrees of the workshop's unit, told in °C. */
const ofDegrees = (lowC: number, highC: number, c: number, onMove: (c: number) => void) => ({
  unit: degreeSign(),
  low: Math.round(pointOf(lowC)),
  high: Math.round(pointOf(highC)),
  value: pointOf(c),
  onMove: (told: number) => onMove(celsiusOf(told)),
});

/** What is left open is not asked for. */
const withoutOpen = (what: WhatIf): WhatIf =>
  Object.fromEntries(Object.entries(what).filter(([, value]) => value !== undefined));

function Slider({
  label,
  unit,
  low,
  high,
  step = 1,
  value,
  onMove,
}: {
  label: string;
  unit: string;
  low: number;
  high: number;
  step?: number;
  /** Undefined while it is left open. */
  value: number | undefined;
  onMove: (value: number) => void;
}) {
  const id = useId();
  return (
    <div className="flex items-center gap-3">
      <label htmlFor={id} className="w-32 shrink-0 text-muted">
        {label}
      </label>
      <input
        id={id}
        type="range"
        min={low}
        max={high}
        step={step}
        value={value ?? high}
        aria-valuetext={value === undefined ? "open" : `${Math.round(value)} ${unit}`}
        onChange={(event) => onMove(Number(event.target.value))}
        className="min-h-11 min-w-0 grow accent-teal"
      />
      <output htmlFor={id} className="w-20 shrink-0 text-right font-mono whitespace-nowrap">
        {value === undefined ? "open" : `${Math.round(value)} ${unit}`}
      </output>
    </div>
  );
}
