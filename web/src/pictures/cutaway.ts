import type { AirLook, AirPlan, AirSheet } from "../api/air";

/** Something that hangs on a wall of the case, in millimetres from its upper front corner. */
export interface Hung {
  id: string;
  words: string;
  x: number;
  y: number;
  width: number;
  height: number;
  place: string;
  inward: boolean;
  /** Seen face-on: it hangs on the wall that is taken off. */
  facing: boolean;
  wrong: boolean;
}

/** Air through a wall: where, which way, how much. */
export interface Draught {
  id: string;
  x: number;
  y: number;
  /** Unit vector of the air's way. */
  dx: number;
  dy: number;
  flowM3PerH: number;
  inward: boolean;
}

export interface Area {
  x: number;
  y: number;
  width: number;
  height: number;
}

/** A distance, drawn between two ends. */
export interface Dimension {
  id: string;
  words: string;
  short: boolean;
  x: number;
  y: number;
  length: number;
  upright: boolean;
}

const fanThick = 25;
/** While nobody has read a fan's size. */
const usualFan = 120;
const boardWide = 244;

/** Outward from each wall. */
const outward: Record<string, [number, number]> = { front: [-1, 0], rear: [1, 0], top: [0, -1], bottom: [0, 1] };

/** What a case of unknown measures is drawn as. */
const usual = { height: 450, depth: 440 };

/** A flat case is seen from above, any other from the side. */
export const isFlat = (sheet: AirSheet) => (sheet.build.case?.heightMm ?? usual.height) < 200;

/** Everything in the case, to scale. A flat case lies: its side is the lower wall of the drawing, and top and bottom are seen face-on. */
export function cutaway(sheet: AirSheet, plan: AirPlan, look: AirLook | undefined) {
  const flat = isFlat(sheet);
  const housing = sheet.build.case;
  const depth = housing?.depthMm ?? usual.depth;
  const tall = flat ? (housing?.widthMm ?? 300) : (housing?.heightMm ?? usual.height);
  const wallOf = (place: string) =>
    !flat ? place : place === "side" ? "bottom" : place === "top" || place === "bottom" ? "side" : place;
  const wrongs = new Set(look?.findings.map((finding) => finding.subject));

  const board = {
    x: depth - 16 - boardWide,
    y: 30,
    width: boardWide,
    height: Math.max(120, Math.min(305, tall - (flat ? 60 : 140))),
  };
  const socket = { x: board.x + boardWide - 92, y: board.y + Math.min(96, board.height * 0.4) };
  const cardLength = sheet.build.graphics?.lengthMm ?? 260;
  const card = sheet.build.graphics
    ? {
        x: depth - 12 - cardLength,
        y: Math.min(socket.y + (sheet.build.board?.firstSlotFromSocketMm ?? 66), tall - 60),
        width: cardLength,
        height: 42,
      }
    : null;
  const supply = flat ? null : { x: depth - 152, y: tall - 92, width: 150, height: 88 };
  const memory = {
    x: socket.x - (sheet.build.board?.memoryFromSocketMm ?? 52) - 32,
    y: socket.y - 66,
    width: 32,
    height: 132,
  };
  const { cooler } = sheet;
  const tower: Area | null =
    cooler && cooler.kind !== "liquid"
      ? {
          x: socket.x - (cooler.reachTowardMemoryMm ?? 50),
          y: socket.y - 62,
          width: (cooler.reachTowardMemoryMm ?? 50) + (cooler.reachTowardRearMm ?? 46),
          height: 124,
        }
      : null;

  // Along a wall things stand one after the other; the radiator first.
  const used: Record<string, number> = {};
  const hang = (id: string, words: string, place: string, inward: boolean, size: number, thick: number): Hung => {
    const wall = wallOf(place);
    const from = used[place] ?? 0;
    used[place] = from + size + 6;
    const shared = { id, words, place, inward, wrong: wrongs.has(id), facing: wall === "side" };
    switch (wall) {
      case "front":
        return { ...shared, x: 3, y: 30 + from, width: thick, height: size };
      case "rear":
        return { ...shared, x: depth - 3 - thick, y: 36 + from, width: thick, height: size };
      case "top":
        return { ...shared, x: depth - 40 - from - size, y: 3, width: size, height: thick };
      case "bottom":
        return { ...shared, x: 44 + from, y: tall - 3 - thick, width: size, height: thick };
      default:
        return { ...shared, x: depth * 0.12 + from, y: tall * 0.52, width: size, height: size };
    }
  };
  const hung: Hung[] = [];
  const radiatorPlace = cooler?.kind === "liquid" ? plan.cooler?.place : null;
  if (cooler && radiatorPlace) {
    hung.push(
      hang(
        "radiator",
        "Radiator",
        radiatorPlace,
        plan.cooler!.inward,
        cooler.radiatorSizeMm ?? 240,
        cooler.radiatorThicknessMm ?? 52,
      ),
    );
  }
  plan.fans.forEach((fan) =>
    hung.push(hang(fan.id, `${capital(fan.place)} fan`, fan.place, fan.inward, fan.sizeMm ?? usualFan, fanThick)),
  );

  const draughts: Draught[] = [];
  const blow = (id: string, wall: string, x: number, y: number, inflow: number) => {
    const out = outward[wall];
    if (out && Math.abs(inflow) >= 1) {
      const inward = inflow > 0;
      const sign = inward ? -1 : 1;
      draughts.push({ id, x, y, dx: sign * out[0], dy: sign * out[1], flowM3PerH: Math.abs(inflow), inward });
    }
  };
  if (look) {
    const flows = new Map(look.air.fans.map((fan) => [fan.id, fan.inflowM3PerH]));
    for (const one of hung.filter((each) => !each.facing)) {
      const wall = wallOf(one.place);
      const [ox, oy] = outward[wall]!;
      const x = ox === 0 ? one.x + one.width / 2 : ox < 0 ? 0 : depth;
      const y = oy === 0 ? one.y + one.height / 2 : oy < 0 ? 0 : tall;
      blow(one.id, wall, x, y, flows.get(one.id) ?? 0);
    }
    blow("supply", "rear", depth, supply ? supply.y + 44 : tall - 40, flows.get("supply") ?? 0);
    const [slots, top] = look.air.openingInflowsM3PerH;
    blow("slots", "rear", depth, card ? card.y + 62 : tall * 0.6, slots ?? 0);
    blow("gaps", flat ? "front" : "top", flat ? 0 : depth * 0.16, flat ? tall * 0.85 : 0, top ?? 0);
  }

  const dimensions: Dimension[] = [];
  for (const clearance of look?.clearances ?? []) {
    const shared = { id: clearance.id, words: clearance.message, short: clearance.freeMm < 0 };
    if (clearance.id === "card-front" && card) {
      dimensions.push({
        ...shared,
        x: card.x - Math.max(0, clearance.freeMm),
        y: card.y + 21,
        length: Math.abs(clearance.freeMm),
        upright: false,
      });
    } else if (clearance.id === "radiator") {
      const radiator = hung.find((one) => one.id === "radiator");
      if (radiator && !radiator.facing) {
        const across = radiator.width < radiator.height;
        const rear = wallOf(radiator.place) === "rear";
        const below = wallOf(radiator.place) === "bottom";
        dimensions.push({
          ...shared,
          x: across
            ? rear
              ? radiator.x - Math.max(0, clearance.freeMm)
              : radiator.x + radiator.width
            : radiator.x + radiator.width * 0.2,
          y: across
            ? radiator.y + radiator.height - 14
            : below
              ? radiator.y - Math.max(0, clearance.freeMm)
              : radiator.y + radiator.height,
          length: Math.abs(clearance.freeMm),
          upright: !across,
        });
      }
    }
  }

  // Where a hand may let go of something.
  const zones = sheet.places.map(({ place }) => ({ place, area: zoneOf(wallOf(place), depth, tall) }));
  return { flat, depth, tall, board, socket, card, supply, memory, tower, hung, draughts, dimensions, zones };
}

function zoneOf(wall: string, depth: number, tall: number): Area {
  const reach = 70;
  switch (wall) {
    case "front":
      return { x: -reach, y: 0, width: reach * 2, height: tall };
    case "rear":
      return { x: depth - reach, y: 0, width: reach * 2, height: tall };
    case "top":
      return { x: reach, y: -reach, width: depth - 2 * reach, height: reach * 2 };
    case "bottom":
      return { x: reach, y: tall - reach, width: depth - 2 * reach, height: reach * 2 };
    default:
      return { x: depth * 0.1, y: tall * 0.45, width: depth * 0.5, height: tall * 0.4 };
  }
}

/** The place whose zone holds a point, the nearest wall first. */
export function placeAt(zones: ReturnType<typeof cutaway>["zones"], x: number, y: number): string | undefined {
  const inside = zones.filter(
    ({ area }) => x >= area.x && x <= area.x + area.width && y >= area.y && y <= area.y + area.height,
  );
  const away = ({ x: left, y: above, width, height }: Area) =>
    Math.hypot(x - left - width / 2, y - above - height / 2) / Math.hypot(width, height);
  return inside.sort((a, b) => away(a.area) - away(b.area))[0]?.place;
}

export const capital = (text: string) => text.charAt(0).toUpperCase() + text.slice(1);
