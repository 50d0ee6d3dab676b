import type { JobSheet, Run, Schemas } from "../../api/client";

export type Setup = Schemas["SetupAnswer"];

/** What is changed to make the next setup, each with one tap. */
export const changes = [
  ["repair", "Repaired", "cleaned, reseated, a part replaced"],
  ["other-cooler", "Another cooler", "or the same with other fans"],
  ["other-paste", "Other paste", "or put on another way"],
  ["fans", "Fans re-plugged", "fan curve, case fans, filters"],
  ["setting", "Setting changed", "cap, lock, firmware"],
  ["card", "The card’s cooler", "its paste, pads, fans"],
] as const;

export const currentSetup = (job: JobSheet) => job.setups.find((setup) => setup.current) ?? job.setups[0]!;

export const lastMount = (setup: Setup) => setup.mounts.at(-1)!;

/** “as it came”, “Corvane Ridge 2”: a setup where its number is plain already. */
export const shortName = (setup: Setup) => setup.title;

/** Names of a job's runs: the setup, the mount where there are several, numbered where one has several runs. */
export function labelled(job: JobSheet): { label: string; side: "before" | "after"; run: Run }[] {
  return job.setups.flatMap((setup) => {
    const runs = job.runs.filter((run) => run.setup === setup.number);
    return runs.map((run, index) => ({
      label: runs.length > 1 ? `${setup.title} ${index + 1}` : setup.title,
      side: setup.number === job.pair.reference ? ("before" as const) : ("after" as const),
      run,
    }));
  });
}

/** The runs that the sheet's pair is made of: the last of each side stands for it in pictures. */
export function shownPair(job: JobSheet): { before?: Run; after?: Run } {
  const last = (ids: readonly string[]) => job.runs.filter((run) => ids.includes(run.id)).at(-1);
  return { before: last(job.pair.before), after: last(job.pair.after) };
}

/** Why the next round is opened. */
export function roundReason(job: JobSheet): string {
  const compared = job.setups.find((setup) => setup.number === job.pair.compared);
  const print = compared?.mounts.map((mount) => mount.values.print).find((one) => one != null);
  return print === "ring-or-spot" || print === "untouched"
    ? "bad-print"
    : job.verdict?.result.verdict === "worse"
      ? "worse"
      : "not-fixed";
}
