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
  processor: "processor",
  board: "board",
  memory: "memory",
  memoryHeightMm: "memory’s height",
  graphics: "graphics card",
  case: "case",
  cooler: "cooler’s name",
  fans: "fans",
  fansSteeredBy: "what the fans follow",
  purchasedOn: "date of purchase",
  warrantyMonths: "term of the warranty",
  warrantyEndedBy: "what ends the warranty",
  warrantyRoute: "what the owner chose",
  doneBefore: "what was done before",
  lastDone: "what was done last",
  tubeOneC: "a tube’s reading",
  tubeOtherC: "a tube’s reading",
  repairCauses: "what it was",
  airPlan: "the plan of the air",
  decisionRoute: "what the owner chose",
  repairCooler: "the cooler that goes on",
};

const kinds: Record<string, string> = {
  "run-added": "a run was added",
  "run-removed": "a run was taken off",
  "run-restored": "a run was brought back",
  conditions: "conditions of a run",
  "load-edges": "where the load begins and ends",
  marks: "marks of a run",
  role: "what a column is",
  "photo-added": "a picture was added",
  "photo-removed": "a picture was taken off",
  "photo-restored": "a picture was brought back",
  "photo-kind": "what a picture shows",
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
