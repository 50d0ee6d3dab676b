import type { Schemas } from "../api/client";

/**
 * Temperatures as this workshop reads them. Everything that is fetched, computed, drawn and saved is in °C; only what stands on the page
 * as a number passes here. The unit is the workshop's, told once when it is known who is signed in.
 */
export type TemperatureUnit = Schemas["TemperatureUnit"];

let told: TemperatureUnit = "celsius";

export function tellIn(unit: TemperatureUnit) {
  told = unit;
}

export const unitTold = () => told;

export const degreeSign = () => (told === "fahrenheit" ? "°F" : "°C");

/** A temperature, °C, as a number of the unit that is told. */
export const pointOf = (c: number) => (told === "fahrenheit" ? c * 1.8 + 32 : c);

/** A difference or a half-width, °C, as a number of the unit that is told. */
export const spanOf = (c: number) => (told === "fahrenheit" ? c * 1.8 : c);

/** What somebody typed or moved to, as °C. */
export const celsiusOf = (typed: number) => (told === "fahrenheit" ? (typed - 32) / 1.8 : typed);

/** A temperature as it stands in a box: as short as it was typed. */
export const typedDegrees = (c: number) => String(Number(pointOf(c).toFixed(told === "fahrenheit" ? 1 : 6)));

/** A true minus; none before a zero that was rounded. */
export const minus = (text: string) => text.replace(/^-(?=0(\.0*)?$)/, "").replace("-", "−");

const withSign = (value: number, digits: number) => `${minus(value.toFixed(digits))} ${degreeSign()}`;

/** A temperature with its unit. */
export const degrees = (c: number | null | undefined, digits = 0): string =>
  c == null ? "—" : withSign(pointOf(c), digits);

/** A difference with its unit. */
export const degreesBy = (c: number | null | undefined, digits = 0): string =>
  c == null ? "—" : withSign(spanOf(c), digits);

/** A temperature, and a difference, as a number alone. */
export const degree = (c: number, digits = 0) => minus(pointOf(c).toFixed(digits));
export const degreeBy = (c: number, digits = 0) => minus(spanOf(c).toFixed(digits));

/** Round numbers of the unit between two temperatures, with the °C at which each stands. */
export function degreeTicks(lowC: number, highC: number): { c: number; label: number }[] {
  const step = told === "fahrenheit" ? 40 : 20;
  const ticks = [];
  for (let label = Math.ceil(pointOf(lowC) / step) * step; label < pointOf(highC); label += step) {
    ticks.push({ c: celsiusOf(label), label });
  }
  return ticks;
}

/** The unit of channels and lanes that carry temperatures; what is told beside them passes here. */
export const celsiusUnit = "°C";
