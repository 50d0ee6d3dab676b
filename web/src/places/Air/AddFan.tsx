import { Plus } from "lucide-react";
import type { AirPlan, AirSheet } from "../../api/air";
import { Button } from "../../parts/Button";
import { drawsIn } from "./airWords";

/** One more fan, at the first place that still has room; it is dragged on from there. */
export function AddFan({
  sheet,
  plan,
  onAdd,
}: {
  sheet: AirSheet;
  plan: AirPlan;
  onAdd: (plan: AirPlan, id: string) => void;
}) {
  const free = sheet.places.find(
    ({ place, count }) => plan.cooler?.place !== place && plan.fans.filter((fan) => fan.place === place).length < count,
  );
  if (!free) {
    return (
      <p className="m-0 text-muted">
        {sheet.places.length === 0 ? "Where the case takes fans is not known." : "Every place has its fan."}
      </p>
    );
  }
  const add = () => {
    const numbers = plan.fans.map((fan) => Number(fan.id.replace(/^fan-/, "")) || 0);
    const id = `fan-${Math.max(0, ...numbers) + 1}`;
    const like = plan.fans[0];
    const fan = {
      id,
      place: free.place,
      inward: drawsIn(free.place),
      sizeMm: free.sizesMm[0]!,
      maxRpm: like?.maxRpm ?? 1300,
      minRpm: null,
      noiseAtMaxDba: null,
      currentA: null,
      header: like?.header ?? null,
    };
    onAdd({ ...plan, fans: [...plan.fans, fan] }, id);
  };
  return (
    <Button onClick={add} className="justify-self-start">
      <Plus size={18} aria-hidden="true" /> A fan at the {free.place}
    </Button>
  );
}
