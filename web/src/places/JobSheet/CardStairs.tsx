import type { Run } from "../../api/client";
import { degrees } from "../../parts/degrees";

const steps = [
  ["air", "its air"],
  ["core", "core"],
  ["hotSpot", "hot spot"],
  ["memory", "memory"],
] as const;

/** The graphics card's own small staircase: from the air that it breathes to its core, its hot spot and its memory; what was before stands behind. */
export function CardStairs({ now, before }: { now: Run; before?: Run }) {
  const card = now.analysis.graphics;
  if (!card) {
    return null;
  }
  const was = before?.analysis.graphics;
  const valueOf = (figures: typeof card, step: string): number | null | undefined =>
    step === "air"
      ? figures.airC
      : step === "core"
        ? figures.core.sustainedC
        : step === "hotSpot"
          ? figures.hotSpot?.sustainedC
          : figures.memory?.sustainedC;
  const drawn = steps.filter(([step]) => valueOf(card, step) != null);
  const top = Math.max(...drawn.map(([step]) => Math.max(valueOf(card, step)!, (was && valueOf(was, step)) ?? 0))) + 6;
  const foot = Math.min(15, (card.airC ?? 20) - 5);
  const height = (value: number) => `${(100 * (value - foot)) / (top - foot)}%`;
  return (
    <figure
      aria-label={`Graphics card: ${drawn.map(([step, words]) => `${words} ${degrees(valueOf(card, step))}`).join(", ")}`}
      className="m-0 mb-5"
    >
      <p className="mb-2 text-xl">{now.cardFinding}</p>
      <div className="flex h-56 items-end gap-2 border-b border-edge">
        {drawn.map(([step, words]) => {
          const value = valueOf(card, step)!;
          const earlier = was ? valueOf(was, step) : null;
          return (
            <div key={step} className="relative h-full min-w-20 flex-1">
              {earlier != null && (
                <div
                  className="absolute bottom-0 w-full border-2 border-b-0 border-dashed border-muted"
                  style={{ height: height(earlier) }}
                />
              )}
              <div
                className={`absolute bottom-0 w-full ${step === "air" ? "bg-teal-soft" : "bg-copper-soft"}`}
                style={{ height: height(value) }}
              />
              <p className="absolute bottom-1 m-0 w-full text-center">
                <span className="block font-mono text-2xl font-bold">{degrees(value)}</span>
                <span className="block text-muted">
                  {words}
                  {earlier != null && `, was ${degrees(earlier)}`}
                </span>
              </p>
            </div>
          );
        })}
      </div>
    </figure>
  );
}
