import type { Middleware } from "openapi-fetch";
import { tellIn, unitTold, type TemperatureUnit } from "../parts/degrees";

let heard: string | null = null;

/** What the page does when its workshop has begun to read other degrees: told once it is there to ask anew. */
export const others = { came: (): void => undefined };

/** Tells in the degrees of whoever is signed in. */
export function tellFor(me: { temperatureUnit: TemperatureUnit }) {
  heard = me.temperatureUnit;
  tellIn(me.temperatureUnit);
}

/** Notices when answers are told in other degrees than this page's: somebody has changed the setting. */
export const noticeDegrees: Middleware = {
  onResponse({ response }) {
    const unit = response.headers.get("Remedos-Degrees");
    if (unit && unit !== heard) {
      heard = unit;
      if (unit !== unitTold()) {
        others.came();
      }
    }
  },
};
