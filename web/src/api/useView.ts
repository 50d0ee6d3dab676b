import { useQueryClient } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import { useSearchParams } from "react-router";
import { lookAt, viewOf, viewText } from "./view";

/** Looks at a job as its address says: which setups, load and subject; the sheet is fetched anew when that changes. */
export function useView(jobId: string) {
  const [search] = useSearchParams();
  const cache = useQueryClient();
  const view = viewText(viewOf(search));
  const [asked, setAsked] = useState<string>();
  if (asked !== view) {
    // Before the first request of this view leaves.
    lookAt(viewOf(new URLSearchParams(view)));
    setAsked(view);
  }
  useEffect(() => {
    void cache
      .cancelQueries({ queryKey: ["job", jobId] })
      .then(() => cache.invalidateQueries({ queryKey: ["job", jobId] }));
  }, [cache, jobId, view]);
  // Whoever leaves the sheet looks at nothing in particular.
  useEffect(() => () => void lookAt({}), []);
}
