import { at } from "./base";
import { useMutation, useQueryClient } from "@tanstack/react-query";
import type { JobSheet, Schemas } from "./client";
import { send } from "./upload";
import { viewed } from "./view";

/** Where something of a job can be fetched as a table for other programs. */
export const tableOf = (job: string, what: "runs" | "setups" | "series") => viewed(at(`/api/jobs/${job}/${what}.csv`));

/** Where all of a job can be fetched as one file. */
export const bundleOf = (job: string) => at(`/api/jobs/${job}/bundle`);

/** Where all of the workshop can be fetched as one file. */
export const archive = "/api/archive";

/** Reads a job in from its file; one that is here already is refused unless it is to be another job. */
export function useReadBundle() {
  const cache = useQueryClient();
  return useMutation({
    mutationFn: ({ file, again }: { file: File; again: boolean }) =>
      send<JobSheet>("/api/jobs/bundle", again ? { again: "true" } : {}, file),
    onSuccess: () => cache.invalidateQueries({ queryKey: ["jobs"] }),
  });
}

/** Reads a whole workshop into this empty one. */
export function useReadArchive(onSent: (share: number) => void) {
  const cache = useQueryClient();
  return useMutation({
    mutationFn: (file: File) => send<Schemas["ArchiveAnswer"]>(archive, {}, file, onSent),
    // Nothing of what the page knows is true any more.
    onSuccess: () => cache.invalidateQueries(),
  });
}
