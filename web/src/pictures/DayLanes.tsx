import clsx from "clsx";
import { Link } from "react-router";
import type { Block, DayPlan, MachineOfPlan } from "../api/planning";
import { hourOf } from "../parts/words";
import { useWidth } from "./useWidth";

const lane = 46;
const head = 30;
const gutter = 92;
const letter = 8.6;

/** Hands and bays as lanes over a day's hours: hands are solid, what goes on alone is hatched, promises are marks on top. */
export function DayLanes({ plan, day }: { plan: DayPlan; day: DayPlan["days"][number] }) {
  const [holder, width] = useWidth<HTMLDivElement>(900);
  if (!day.from || !day.to) {
    return <p className="text-muted">Closed on this day.</p>;
  }
  const from = new Date(day.from).getTime();
  const to = new Date(day.to).getTime();
  const x = (at: string | number) =>
    gutter + ((Math.min(to, Math.max(from, new Date(at).getTime())) - from) / (to - from)) * (width - gutter - 8);
  const here = plan.hands.filter((hand) => !day.away.includes(hand.person));
  const lanes = [
    ...here.map((hand) => ({
      name: hand.name,
      // A run's own time stands in its bay's lane.
      bars: plan.blocks
        .filter((block) => block.hand === hand.person)
        .map((block) => ({ block, from: block.from, to: block.handsTo, alone: false })),
    })),
    ...plan.bays.map((number) => ({
      name: `Bay ${number}`,
      bars: plan.blocks
        .filter((block) => block.bay === number)
        .flatMap((block) => [
          { block, from: block.from, to: block.handsTo, alone: false },
          { block, from: block.handsTo, to: block.to, alone: true },
        ]),
    })),
  ];
  const late = new Set(plan.machines.filter((machine) => machine.isLate).map((machine) => machine.job));
  const promised = plan.machines.filter(
    (machine) => machine.promisedAt && machine.promisedAt >= day.from! && machine.promisedAt <= day.to!,
  );
  const height = head + lanes.length * lane;
  const now = new Date(plan.at).getTime();
  return (
    <div ref={holder} className="min-w-0 overflow-hidden">
      <svg
        viewBox={`0 0 ${width} ${height}`}
        width="100%"
        className="block"
        aria-label={inWords(plan, day)}
        role="group"
      >
        <defs>
          <pattern id="alone" width="8" height="8" patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
            <rect width="8" height="8" className="fill-card" />
            <line x1="0" x2="0" y1="0" y2="8" className="stroke-teal" strokeWidth="3" />
          </pattern>
        </defs>
        {hours(from, to, width).map((hour) => (
          <g key={hour}>
            <line x1={x(hour)} x2={x(hour)} y1={head - 6} y2={height} className="stroke-hairline" />
            <text x={x(hour)} y={16} textAnchor="middle" className="fill-muted font-mono text-sm">
              {hourOf(hour)}
            </text>
          </g>
        ))}
        {promised.map((machine) => (
          <Promise key={machine.job} machine={machine} at={x(machine.promisedAt!)} height={height} />
        ))}
        {lanes.map((one, i) => (
          <g key={one.name} transform={`translate(0 ${head + i * lane})`}>
            <line x1={0} x2={width} y1={0} y2={0} className="stroke-hairline" />
            <text x={0} y={lane / 2 + 6} className="fill-ink text-base">
              {short(one.name)}
            </text>
            {one.bars
              .filter((bar) => new Date(bar.to).getTime() > from && new Date(bar.from).getTime() < to)
              .map((bar) => (
                <Bar
                  key={`${bar.block.job} ${bar.from} ${bar.alone}`}
                  block={bar.block}
                  alone={bar.alone}
                  late={late.has(bar.block.job)}
                  left={x(bar.from)}
                  right={x(bar.to)}
                />
              ))}
          </g>
        ))}
        {now > from && now < to && (
          <line x1={x(now)} x2={x(now)} y1={head - 10} y2={height} className="stroke-ink" strokeWidth={2} />
        )}
      </svg>
    </div>
  );
}

function Bar({
  block,
  alone,
  late,
  left,
  right,
}: {
  block: Block;
  alone: boolean;
  late: boolean;
  left: number;
  right: number;
}) {
  const width = Math.max(2, right - left - 1);
  const words = [block.tag, block.tag.replace(/^.*-0*/, "")].find((text) => text.length * letter + 6 < width);
  return (
    <Link to={`/jobs/${block.job}`} tabIndex={-1} aria-hidden="true">
      <title>{`${block.tag}: ${block.title}`}</title>
      <rect
        x={left}
        y={6}
        width={width}
        height={lane - 12}
        rx={2}
        fill={alone ? "url(#alone)" : undefined}
        strokeWidth={late ? 2.5 : 1}
        className={clsx(!alone && "fill-teal-soft", late ? "stroke-amber" : "stroke-teal")}
      />
      {words && (
        <>
          {alone && (
            <rect x={left + 3} y={lane / 2 - 10} width={words.length * letter + 4} height={20} className="fill-card" />
          )}
          <text x={left + 5} y={lane / 2 + 5} className="fill-ink font-mono text-sm">
            {words}
          </text>
        </>
      )}
    </Link>
  );
}

function Promise({ machine, at, height }: { machine: MachineOfPlan; at: number; height: number }) {
  return (
    <g>
      <title>{`${machine.tag} is promised for ${hourOf(machine.promisedAt!)}`}</title>
      <line
        x1={at}
        x2={at}
        y1={head - 8}
        y2={height}
        strokeDasharray="3 4"
        className={machine.isLate ? "stroke-amber" : "stroke-ink"}
      />
      <path d={`M${at - 6} ${head - 12} h12 l-6 9 z`} className={machine.isLate ? "fill-amber" : "fill-ink"} />
    </g>
  );
}

/** Round hours within a day, as many as there is room for. */
export function hours(from: number, to: number, width: number): number[] {
  const hour = 3_600_000;
  const step = [1, 2, 3, 6].find((one) => ((width - gutter) * one * hour) / (to - from) > 52) ?? 12;
  const first = Math.ceil(from / hour) * hour;
  return Array.from({ length: Math.floor((to - first) / hour) + 1 }, (_, i) => first + i * hour).filter(
    (at) => new Date(at).getHours() % step === 0,
  );
}

const short = (name: string) => (name.length > 10 ? `${name.slice(0, 9)}…` : name);

function inWords(plan: DayPlan, day: DayPlan["days"][number]): string {
  const blocks = plan.blocks.filter((block) => block.hand && block.from < day.to! && block.handsTo > day.from!);
  const name = new Map(plan.hands.map((hand) => [hand.person, hand.name]));
  return blocks.length === 0
    ? "Nothing is planned on this day."
    : blocks.map((block) => `${hourOf(block.from)} ${name.get(block.hand!)}: ${block.tag}, ${block.title}`).join("; ");
}
