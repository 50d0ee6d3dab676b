import clsx from "clsx";
import type { PointerEvent } from "react";
import type { AirLook, AirSheet } from "../api/air";
import type { cutaway, Draught, Hung } from "./cutaway";
import { degrees } from "../parts/degrees";

type Picture = ReturnType<typeof cutaway>;

/** What stands in the case: board, cooler, card, supply, and how warm it is. */
export function Inside({
  picture,
  look,
  sheet,
  unit,
}: {
  picture: Picture;
  look?: AirLook;
  sheet: AirSheet;
  unit: number;
}) {
  const { board, socket, card, supply, memory, tower } = picture;
  const air = look?.air;
  const said = (c: number | null | undefined) => (c == null ? "" : degrees(c));
  const radiator = picture.hung.find((one) => one.id === "radiator");
  const limit = sheet.build.processor.temperatureLimitC;
  const size = 20 * unit;
  return (
    <g>
      <rect {...board} className="fill-none stroke-hairline" strokeWidth={1.5 * unit} />
      <rect {...memory} className="fill-shade" />
      {supply && (
        <g>
          <rect {...supply} className="fill-shade stroke-hairline" strokeWidth={unit} />
          <text x={supply.x + 75} y={supply.y + 50} textAnchor="middle" fontSize={15 * unit} className="fill-muted">
            supply
          </text>
        </g>
      )}
      {radiator &&
        [-9, 9].map((aside) => (
          <path
            key={aside}
            d={hose(socket, { x: radiator.x + radiator.width / 2, y: radiator.y + radiator.height / 2 }, aside)}
            className="fill-none stroke-edge"
            strokeWidth={3 * unit}
          />
        ))}
      {tower ? (
        <rect {...tower} className="fill-copper-soft stroke-edge" strokeWidth={unit} />
      ) : (
        sheet.cooler && (
          <circle cx={socket.x} cy={socket.y} r={36} className="fill-copper-soft stroke-edge" strokeWidth={unit} />
        )
      )}
      {card && <rect {...card} className="fill-copper-soft stroke-edge" strokeWidth={unit} />}
      {air?.processorC != null && (
        <text
          x={socket.x}
          y={socket.y + size / 3}
          textAnchor="middle"
          fontSize={size}
          className="fill-ink font-mono font-bold"
        >
          {said(Math.min(air.processorC, limit))}
        </text>
      )}
      {card && air?.cardC != null && (
        <text
          x={card.x + card.width - 16}
          y={card.y + 21 + size / 3}
          textAnchor="end"
          fontSize={size}
          className="fill-ink font-mono font-bold"
        >
          card {said(air.cardC)}
        </text>
      )}
      {air && (
        <text
          x={picture.depth * (picture.flat ? 0.45 : 0.3)}
          y={picture.flat ? 22 * unit : picture.tall * 0.8}
          textAnchor="middle"
          fontSize={17 * unit}
          className="fill-copper-text"
        >
          air inside {said(air.caseAirC)}
        </text>
      )}
    </g>
  );
}

/** A hose from the block to the radiator, a little beside the straight way. */
function hose(from: { x: number; y: number }, to: { x: number; y: number }, aside: number): string {
  const long = Math.max(1, Math.hypot(to.x - from.x, to.y - from.y));
  const [nx, ny] = [(-(to.y - from.y) / long) * aside, ((to.x - from.x) / long) * aside];
  return `M${from.x + nx},${from.y + ny} Q${(from.x + to.x) / 2 + 4 * nx},${(from.y + to.y) / 2 + 4 * Math.abs(ny) + 12} ${to.x + nx},${to.y + ny}`;
}

const halo = { paintOrder: "stroke", strokeLinejoin: "round" } as const;

/** Air as an arrow as wide as its flow; teal comes in, copper goes out, and the number says it too. */
export function Arrow({ draught, unit }: { draught: Draught; unit: number }) {
  const { x, y, dx, dy, inward } = draught;
  const half = Math.max(2 * unit, Math.min(30, draught.flowM3PerH / 5));
  const long = 52;
  // It begins outside and ends at the wall, or the other way round.
  const [sx, sy] = inward ? [x - dx * (long + 10), y - dy * (long + 10)] : [x + dx * 8, y + dy * 8];
  const [ex, ey] = [sx + dx * long, sy + dy * long];
  const [nx, ny] = [-dy, dx];
  const head = Math.min(26, Math.max(10, half * 0.9));
  const [bx, by] = [ex - dx * head, ey - dy * head];
  const point = (px: number, py: number, side: number, wide: number) =>
    `${px + nx * side * wide},${py + ny * side * wide}`;
  const label = `${draught.flowM3PerH.toFixed(0)}`;
  const [lx, ly] =
    dx === 0 ? [sx + half + 8 * unit + 14 * unit, (sy + ey) / 2 + 5 * unit] : [(sx + ex) / 2, y - half - 7 * unit];
  return (
    <g>
      <polygon
        points={[
          point(sx, sy, 1, half * 0.62),
          point(bx, by, 1, half * 0.62),
          point(bx, by, 1, half),
          `${ex},${ey}`,
          point(bx, by, -1, half),
          point(bx, by, -1, half * 0.62),
          point(sx, sy, -1, half * 0.62),
        ].join(" ")}
        className={inward ? "fill-teal" : "fill-copper"}
        opacity={0.85}
      />
      <text
        x={lx}
        y={ly}
        textAnchor="middle"
        fontSize={15 * unit}
        strokeWidth={4 * unit}
        {...halo}
        className="fill-ink stroke-paper font-mono"
      >
        {label}
      </text>
    </g>
  );
}

/** A fan or the radiator: it can be dragged, chosen, and tells its direction. */
export function Movable({
  one,
  unit,
  look,
  chosen,
  by,
  onGrab,
  onChoose,
}: {
  one: Hung;
  unit: number;
  look?: AirLook;
  chosen: boolean;
  by?: { x: number; y: number };
  onGrab: (event: PointerEvent) => void;
  onChoose: () => void;
}) {
  const state = look?.air.fans.find((fan) => fan.id === one.id);
  const says = `${one.words}, blows ${one.inward ? "in" : "out"}${state ? `, ${Math.abs(state.inflowM3PerH).toFixed(0)} m³/h at ${Math.round(state.rpm / 10) * 10} rpm` : ""}${one.wrong ? ", does not go there" : ""}`;
  const radiator = one.id === "radiator";
  const middle = { x: one.x + one.width / 2, y: one.y + one.height / 2 };
  const fins = Array.from({ length: Math.floor(Math.max(one.width, one.height) / 16) }, (_, i) => 8 + i * 16);
  const upright = one.height > one.width;
  return (
    <g
      role="button"
      tabIndex={0}
      aria-label={says}
      aria-pressed={chosen}
      transform={by && `translate(${by.x} ${by.y})`}
      className="cursor-grab outline-none focus-visible:[&>rect]:stroke-teal"
      onPointerDown={(event) => {
        event.preventDefault();
        (event.currentTarget as unknown as HTMLElement).focus();
        event.currentTarget.ownerSVGElement?.setPointerCapture(event.pointerId);
        onGrab(event);
      }}
      onKeyDown={(event) => {
        if (event.key === "Enter" || event.key === " ") {
          event.preventDefault();
          onChoose();
        }
      }}
    >
      <rect
        x={one.x}
        y={one.y}
        width={one.width}
        height={one.height}
        rx={one.facing ? one.width / 2 : 3}
        className={clsx(
          radiator ? "fill-shade" : "fill-paper",
          one.wrong ? "stroke-amber" : chosen ? "stroke-teal" : "stroke-ink",
        )}
        strokeWidth={(one.wrong || chosen ? 4 : 1.5) * unit}
        strokeDasharray={one.wrong ? `${6 * unit} ${4 * unit}` : undefined}
      />
      {radiator && !one.facing
        ? fins.map((from) =>
            upright ? (
              <line
                key={from}
                x1={one.x}
                x2={one.x + one.width}
                y1={one.y + from}
                y2={one.y + from}
                className="stroke-edge"
                strokeWidth={unit}
              />
            ) : (
              <line
                key={from}
                x1={one.x + from}
                x2={one.x + from}
                y1={one.y}
                y2={one.y + one.height}
                className="stroke-edge"
                strokeWidth={unit}
              />
            ),
          )
        : !one.facing && (
            <line
              x1={upright ? middle.x : one.x + 6}
              x2={upright ? middle.x : one.x + one.width - 6}
              y1={upright ? one.y + 6 : middle.y}
              y2={upright ? one.y + one.height - 6 : middle.y}
              className="stroke-edge"
              strokeWidth={3 * unit}
              strokeLinecap="round"
            />
          )}
      {one.facing && (
        <text x={middle.x} y={middle.y + 5 * unit} textAnchor="middle" fontSize={15 * unit} className="fill-ink">
          {one.inward ? "in" : "out"} {state ? Math.abs(state.inflowM3PerH).toFixed(0) : ""}
        </text>
      )}
    </g>
  );
}

/** A dimension line with its millimetres; one that is too short is amber, thick and says so. */
export function Distance({
  id,
  words: text,
  short,
  x,
  y,
  length,
  upright,
  unit,
  silent,
}: Picture["dimensions"][number] & { unit: number; silent: boolean }) {
  const [x2, y2] = upright ? [x, y + length] : [x + length, y];
  const tick = 7 * unit;
  const className = short ? "stroke-amber" : "stroke-muted";
  return (
    <g>
      <line x1={x} y1={y} x2={x2} y2={y2} className={className} strokeWidth={(short ? 4 : 1.5) * unit} />
      {[
        [x, y],
        [x2, y2],
      ].map(([px, py], i) => (
        <line
          key={i}
          x1={px! - (upright ? tick : 0)}
          x2={px! + (upright ? tick : 0)}
          y1={py! - (upright ? 0 : tick)}
          y2={py! + (upright ? 0 : tick)}
          className={className}
          strokeWidth={1.5 * unit}
        />
      ))}
      {!silent && (
        <text
          x={upright ? x + 12 * unit : x}
          y={upright ? (y + y2) / 2 + 5 * unit : y + (id === "card-front" ? -30 : 24) * unit}
          textAnchor="start"
          fontSize={15 * unit}
          strokeWidth={4 * unit}
          {...halo}
          className={clsx("stroke-card", short ? "fill-amber font-bold" : "fill-muted")}
        >
          {text}
        </text>
      )}
    </g>
  );
}
