import { useRef, useState, type PointerEvent } from "react";
import type { AirLook, AirPlan, AirSheet } from "../api/air";
import { cutaway, placeAt } from "./cutaway";
import { Arrow, Distance, Inside, Movable } from "./cutawayParts";
import { useWidth } from "./useWidth";
import { degrees } from "../parts/degrees";

type Picture = ReturnType<typeof cutaway>;

/** Room round the case for its arrows; below it only where something blows there. */
const margin = { x: 128, y: 92, below: 40 };

/** Narrower than this, in CSS pixels, distances stand below the picture instead of in it. */
const narrow = 480;

/**
 * The case cut open, to scale in millimetres: fans and radiator on their walls, air as arrows as wide as its flow, distances as dimension lines. What hangs on a wall can be dragged to another one, or
 * chosen with a touch or the keyboard.
 */
export function CaseCutaway({
  sheet,
  plan,
  look,
  chosen,
  onChoose,
  onMove,
}: {
  sheet: AirSheet;
  plan: AirPlan;
  look: AirLook | undefined;
  chosen?: string;
  onChoose: (id: string) => void;
  onMove: (id: string, place: string) => void;
}) {
  const [holder, width] = useWidth<HTMLDivElement>(640);
  const svg = useRef<SVGSVGElement>(null);
  const [drag, setDrag] = useState<{ id: string; fromX: number; fromY: number; x: number; y: number }>();
  const picture = cutaway(sheet, plan, look);
  const small = width < narrow;
  const side = small ? 96 : margin.x;
  const blowsAt = (upper: boolean) => picture.draughts.some((one) => one.dx === 0 && one.y > 0 !== upper);
  const above = blowsAt(true) ? margin.y : margin.below / 2;
  const below = blowsAt(false) ? margin.y : margin.below;
  const view = {
    x: -side,
    y: -above,
    width: picture.depth + 2 * side,
    height: picture.tall + above + below,
  };
  // Words keep their size whatever the case's.
  const unit = view.width / width;

  const at = (event: PointerEvent) => {
    const box = svg.current!.getBoundingClientRect();
    const scale = Math.max(view.width / box.width, view.height / box.height) || 1;
    return { x: view.x + (event.clientX - box.left) * scale, y: view.y + (event.clientY - box.top) * scale };
  };
  const moved = drag && Math.hypot(drag.x - drag.fromX, drag.y - drag.fromY) > 6 * unit;
  const target = drag && moved ? placeAt(picture.zones, drag.x, drag.y) : undefined;
  return (
    <figure className="m-0" aria-label="The case cut open">
      <div ref={holder}>
        <svg
          ref={svg}
          viewBox={`${view.x} ${view.y} ${view.width} ${view.height}`}
          width="100%"
          role="group"
          aria-label={words(picture, look)}
          className="block touch-pan-y select-none"
          onPointerMove={(event) => drag && setDrag({ ...drag, ...at(event) })}
          onPointerUp={() => {
            if (drag && target) {
              onMove(drag.id, target);
            }
            setDrag(undefined);
          }}
          onPointerCancel={() => setDrag(undefined)}
        >
          <rect
            width={picture.depth}
            height={picture.tall}
            className="fill-card stroke-ink"
            strokeWidth={2 * unit}
            strokeDasharray={plan.panelOff ? `${8 * unit} ${6 * unit}` : undefined}
          />
          {drag &&
            moved &&
            picture.zones.map(({ place, area }) => (
              <rect
                key={place}
                {...area}
                className={place === target ? "fill-teal-soft" : "fill-shade"}
                opacity={0.7}
              />
            ))}
          <Inside picture={picture} look={look} sheet={sheet} unit={unit} />
          {picture.draughts.map((draught) => (
            <Arrow key={draught.id} draught={draught} unit={unit} />
          ))}
          {picture.hung.map((one) => (
            <Movable
              key={one.id}
              one={one}
              unit={unit}
              look={look}
              chosen={one.id === chosen}
              by={drag?.id === one.id && moved ? { x: drag.x - drag.fromX, y: drag.y - drag.fromY } : undefined}
              onGrab={(event) => {
                const here = at(event);
                setDrag({ id: one.id, fromX: here.x, fromY: here.y, ...here });
                onChoose(one.id);
              }}
              onChoose={() => onChoose(one.id)}
            />
          ))}
          {picture.dimensions.map((dimension) => (
            <Distance silent={small} key={dimension.id} {...dimension} unit={unit} />
          ))}
          {(
            [
              ["front", view.x + 6 * unit, picture.tall + 20 * unit, "start"],
              ["rear", view.x + view.width - 6 * unit, picture.tall + 20 * unit, "end"],
            ] as const
          ).map(([text, x, y, anchor]) => (
            <text key={text} x={x} y={y} textAnchor={anchor} fontSize={15 * unit} className="fill-muted">
              {text}
            </text>
          ))}
          <text
            x={picture.depth / 2}
            y={picture.tall + 20 * unit}
            textAnchor="middle"
            fontSize={15 * unit}
            className="fill-muted"
          >
            {picture.flat ? "from above" : "from the side"}; air in m³/h
          </text>
        </svg>
      </div>
      {small && look && look.clearances.length > 0 && (
        <figcaption className="text-muted">{look.clearances.map((one) => one.message).join(", ")}.</figcaption>
      )}
    </figure>
  );
}

function words(picture: Picture, look: AirLook | undefined): string {
  if (!look) {
    return "The case, its air not computed yet.";
  }
  const { air } = look;
  const through = picture.draughts.map(
    (one) => `${one.id} ${one.flowM3PerH.toFixed(0)} m³/h ${one.inward ? "in" : "out"}`,
  );
  return `${picture.flat ? "From above" : "From the side"}: ${through.join(", ")}. Air inside ${degrees(air.caseAirC)}.`;
}
