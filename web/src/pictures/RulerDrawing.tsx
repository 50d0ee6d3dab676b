import clsx from "clsx";

type Point = readonly [x: number, y: number];

/** Where a ruler is held: a view of the machine, and both ends of the length. */
const lengths: Record<string, { view: keyof typeof views; from: Point; to: Point }> = {
  coolerRoomMm: { view: "fromAbove", from: [58, 132], to: [58, 22] },
  behindBoardMm: { view: "fromAbove", from: [112, 138], to: [112, 160] },
  memoryHeightMm: { view: "fromAbove", from: [186, 126], to: [186, 88] },
  cardRoomMm: { view: "open", from: [22, 104], to: [206, 104] },
  cardLengthMm: { view: "open", from: [30, 104], to: [176, 104] },
  rearFromSocketMm: { view: "open", from: [90, 62], to: [22, 62] },
  slotToBottomMm: { view: "open", from: [150, 104], to: [150, 166] },
  memoryFromSocketMm: { view: "open", from: [90, 62], to: [115, 62] },
  firstSlotFromSocketMm: { view: "open", from: [90, 62], to: [90, 100] },
  radiatorFrontMm: { view: "open", from: [218, 70], to: [182, 70] },
  radiatorTopMm: { view: "open", from: [126, 14], to: [126, 34] },
  radiatorRearMm: { view: "open", from: [22, 50], to: [42, 50] },
  radiatorBottomMm: { view: "open", from: [140, 166], to: [140, 118] },
  radiatorSideMm: { view: "fromAbove", from: [58, 22], to: [58, 44] },
  cardBackPlateMm: { view: "card", from: [184, 90], to: [184, 78] },
  cardThicknessMm: { view: "card", from: [184, 90], to: [184, 132] },
};

/** The small picture of a measure: the machine, and the ruler across it. */
export function RulerDrawing({ field, title, className }: { field: string; title: string; className?: string }) {
  const length = lengths[field];
  if (!length) {
    return null;
  }
  const View = views[length.view];
  return (
    <svg viewBox="0 0 240 180" role="img" aria-label={`Where to hold the ruler: ${title}`} className={clsx(className)}>
      <View />
      <Ruler from={length.from} to={length.to} />
    </svg>
  );
}

const line = "fill-none stroke-edge [stroke-width:2]";
const solid = "fill-shade stroke-edge [stroke-width:1.5]";
const word = "fill-muted text-[13px]";

/** A length with a stroke across at both ends. */
function Ruler({ from: [x1, y1], to: [x2, y2] }: { from: Point; to: Point }) {
  const far = Math.hypot(x2 - x1, y2 - y1);
  const [across, along] = [((y2 - y1) / far) * 7, ((x2 - x1) / far) * 7];
  return (
    <g className="fill-none stroke-copper [stroke-linecap:round] [stroke-width:4]">
      <path d={`M${x1} ${y1}L${x2} ${y2}`} />
      {[
        [x1, y1],
        [x2, y2],
      ].map(([x, y]) => (
        <path key={`${x}-${y}`} d={`M${x! - across} ${y! + along}L${x! + across} ${y! - along}`} />
      ))}
    </g>
  );
}

/** As it is seen with the side panel off: rear at the left, front at the right. */
function Open() {
  return (
    <>
      <rect x="20" y="12" width="200" height="156" className={line} />
      <rect x="40" y="36" width="104" height="92" className={line} />
      <rect x="76" y="48" width="28" height="28" className={solid} />
      {[116, 124].map((x) => (
        <rect key={x} x={x} y="42" width="4" height="48" className={solid} />
      ))}
      <rect x="30" y="100" width="146" height="16" className={solid} />
      <rect x="24" y="138" width="60" height="28" className={solid} />
      <text x="26" y="28" className={word}>
        rear
      </text>
      <text x="186" y="28" className={word}>
        front
      </text>
    </>
  );
}

/** Looked at from above, the board lying at the bottom. */
function FromAbove() {
  return (
    <>
      <path d="M24 20H216M24 162H216" className={line} />
      <rect x="30" y="132" width="180" height="6" className={solid} />
      <rect x="84" y="46" width="62" height="80" className={solid} />
      <rect x="96" y="126" width="38" height="6" className={solid} />
      <rect x="170" y="88" width="6" height="44" className={solid} />
      <text x="152" y="34" className={word}>
        side panel
      </text>
      <text x="30" y="156" className={word}>
        board
      </text>
    </>
  );
}

/** The card in its slot, seen from the front: the cooler above it. */
function Card() {
  return (
    <>
      <rect x="30" y="12" width="6" height="156" className={solid} />
      <rect x="40" y="20" width="80" height="44" className={line} />
      <text x="50" y="46" className={word}>
        cooler
      </text>
      <rect x="36" y="78" width="134" height="54" className={solid} />
      <path d="M36 90H176" className={line} />
      <text x="56" y="118" className={word}>
        card
      </text>
      <text x="42" y="164" className={word}>
        board
      </text>
    </>
  );
}

const views = { open: Open, fromAbove: FromAbove, card: Card };
