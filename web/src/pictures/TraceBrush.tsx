import clsx from "clsx";
import { Slider } from "radix-ui";
import { useState, type PointerEvent } from "react";
import { channelOf, laneKinds, shifted, type Look, type Range, type SideTrace } from "./lanes";
import { thinned } from "./TraceSketch";

/** Nobody zooms nearer than this, s. */
const nearest = 20;

/** The whole run in front, small; its two ends and the stretch between them choose what the lanes show. */
export function TraceBrush({
  front,
  look,
  all,
  view,
  onView,
}: {
  front: SideTrace;
  look: Look;
  all: Range;
  view: Range;
  onView: (range: Range | undefined) => void;
}) {
  const [held, setHeld] = useState<{ x: number; view: Range }>();
  const length = all.to - all.from;
  const set = (from: number, to: number) => onView(from <= all.from + 1 && to >= all.to - 1 ? undefined : { from, to });
  const pan = (event: PointerEvent<HTMLElement>) => {
    if (held) {
      const wanted =
        held.view.from + ((event.clientX - held.x) / event.currentTarget.parentElement!.clientWidth) * length;
      const from = Math.max(all.from, Math.min(all.to - (held.view.to - held.view.from), wanted));
      set(from, from + held.view.to - held.view.from);
    }
  };
  const strokes = { copper: "stroke-copper", teal: "stroke-teal", edge: "stroke-edge" };
  return (
    <div className="mr-24 ml-[58px] border-y border-hairline">
      <Slider.Root
        min={Math.floor(all.from)}
        max={Math.ceil(all.to)}
        step={1}
        minStepsBetweenThumbs={nearest}
        value={[Math.round(view.from), Math.round(view.to)]}
        onValueChange={([from, to]) => set(from!, to!)}
        className="relative flex h-11 touch-none items-stretch select-none"
      >
        <Slider.Track className="relative grow overflow-hidden">
          <svg viewBox="0 0 1000 44" preserveAspectRatio="none" aria-hidden="true" className="absolute h-full w-full">
            <polyline
              points={outline(front, all)}
              className={`fill-none ${strokes[look.token]}`}
              strokeWidth="1.5"
              vectorEffect="non-scaling-stroke"
            />
          </svg>
          <Slider.Range
            className={clsx("absolute h-full cursor-grab", view.to - view.from < length && "bg-teal/15")}
            onPointerDown={(event) => {
              event.stopPropagation();
              event.currentTarget.setPointerCapture(event.pointerId);
              setHeld({ x: event.clientX, view });
            }}
            onPointerMove={pan}
            onPointerUp={() => setHeld(undefined)}
            onPointerCancel={() => setHeld(undefined)}
          />
        </Slider.Track>
        {(["Show from", "Show to"] as const).map((name) => (
          // No width of its own, so that it stands exactly where its value is; the target within is as wide as a thumb.
          <Slider.Thumb key={name} aria-label={name} className="relative block h-11 w-0">
            <span className="absolute -left-[22px] flex h-11 w-11 cursor-ew-resize justify-center">
              <span className="h-full w-1 rounded-sm bg-teal" />
            </span>
          </Slider.Thumb>
        ))}
      </Slider.Root>
    </div>
  );
}

/** The chip's temperature over the whole width, its own range over the height. */
function outline(front: SideTrace, all: Range): string {
  const whole = { run: front.run, trace: front.whole ?? front.trace };
  const channel = channelOf(whole.trace, laneKinds[0]!.roles) ?? whole.trace.channels[0];
  if (!channel) {
    return "";
  }
  const points = thinned(shifted(whole), channel.values, 300);
  const values = points.map(([, value]) => value);
  const low = Math.min(...values);
  const high = Math.max(...values);
  return points
    .map(
      ([second, value]) =>
        `${((1000 * (second - all.from)) / (all.to - all.from)).toFixed(1)},${(40 - (36 * (value - low)) / Math.max(1e-9, high - low)).toFixed(1)}`,
    )
    .join(" ");
}
