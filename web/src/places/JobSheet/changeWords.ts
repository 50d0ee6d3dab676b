import type { Schemas } from "../../api/client";
import { ago } from "../../parts/words";

const fields: Record<string, string> = {
  owner: "owner",
  contact: "contact",
  machine: "machine",
  serial: "serial number",
  noticed: "what was noticed",
  roomC: "room",
  temperatureLimitC: "temperature limit",
  ratedPowerW: "rated power",
  coolerKind: "cooler",
  waitingFor: "held up by",
  repairFound: "what was found",
  repairDone: "what was done",
  repairParts: "parts",
  repairMinutes: "minutes",
  repairPaste: "paste",
  repairPasteMethod: "paste, how put on",
  repairCoolerKind: "cooler now",
  mountedAt: "when mounted",
  handedOverAt: "handed over",
  recheckOn: "recheck date",
  builtOn: "when it was built",
  origin: "bought or built",
  setting: "where it stands",
};

const kinds: Record<string, string> = {
  "run-added": "a run was added",
  "run-removed": "a run was taken off",
  "run-restored": "a run was brought back",
  conditions: "conditions of a run",
  "load-edges": "where the load begins and ends",
  marks: "marks of a run",
  role: "what a column is",
};

/** The last change in a few words: what, who, when. */
export function changeWords(change: Schemas["LastChange"]): string {
  const what = change.subject?.startsWith("evidence.")
    ? "an observation"
    : change.kind === "field"
      ? (fields[change.subject ?? ""] ?? "a field")
      : (kinds[change.kind] ?? "a change");
  return `${what} (${change.person}, ${ago(change.at)})`;
}
