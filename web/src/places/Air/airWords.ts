import type { Schemas } from "../../api/client";
import type { AirPlan, AirSheet } from "../../api/air";

export const sources = [
  ["cpu", "the processor"],
  ["coolant", "the liquid"],
  ["gpu", "the card"],
  ["cpu-gpu", "the hotter of the two"],
  ["board", "the case’s air"],
] as const;

export const sourceWords = (source: string | null | undefined) =>
  source == null ? "nothing: full" : (sources.find(([id]) => id === source)?.[1] ?? source);

export const loads = [
  ["both", "all at full"],
  ["processor", "the processor alone"],
  ["card", "the card alone"],
  ["rest", "nothing much"],
] as const;

export const pressureWords: Record<Schemas["AirPressure"], string> = {
  "more-in": "more in than out",
  balanced: "as much in as out",
  "more-out": "more out than in",
};

/** What each fan is called, numbered where several hang at one place. */
export function fanNames(plan: AirPlan): Map<string, string> {
  const names = new Map<string, string>();
  for (const fan of plan.fans) {
    const same = plan.fans.filter((one) => one.place === fan.place);
    const number = same.length > 1 ? ` ${same.indexOf(fan) + 1}` : "";
    names.set(fan.id, `${fan.place.charAt(0).toUpperCase()}${fan.place.slice(1)} fan${number}`);
  }
  names.set("radiator", "Radiator");
  names.set("cooler", "Cooler’s fans");
  names.set("pump", "Pump");
  return names;
}

/** The sources that mean something in this machine. */
export const sourcesOf = (sheet: AirSheet) =>
  sources.filter(
    ([id]) =>
      (id !== "coolant" || sheet.cooler?.kind === "liquid") &&
      ((id !== "gpu" && id !== "cpu-gpu") || sheet.build.graphics !== null),
  );

/** Air goes in where a case draws it by habit. */
export const drawsIn = (place: string) => place === "front" || place === "bottom" || place === "side";
