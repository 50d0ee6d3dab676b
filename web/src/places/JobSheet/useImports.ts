import { useEffect, useRef, useState } from "react";
import { sentenceOf } from "../../api/client";
import type { JobActions } from "../../api/jobs";
import { sendLog } from "../../api/upload";
import { tell } from "../../parts/told";

/** A log on its way to the server; after that the job sheet itself tells how it goes on. */
export interface Sending {
  id: number;
  side: string;
  name: string;
  share: number;
  problem?: string;
  stop: () => void;
}

/** Sends logs, one after the other, and tells how far each is. */
export function useImports(jobId: string, actions: JobActions) {
  const [sending, setSending] = useState<Sending[]>([]);
  const next = useRef(1);
  const here = useRef(true);
  useEffect(() => {
    here.current = true;
    return () => {
      here.current = false;
    };
  }, []);
  const patch = (id: number, change: Partial<Sending>) =>
    setSending((all) => all.map((one) => (one.id === id ? { ...one, ...change } : one)));
  const drop = (id: number) => setSending((all) => all.filter((one) => one.id !== id));

  const add = async (side: string, files: readonly File[]) => {
    for (const file of files) {
      const id = next.current++;
      const abort = new AbortController();
      setSending((all) => [...all, { id, side, name: file.name, share: 0, stop: () => abort.abort() }]);
      try {
        await sendLog(jobId, side, file, (share) => patch(id, { share }), abort.signal);
        await actions.refresh();
        drop(id);
      } catch (failure) {
        if (failure instanceof DOMException) {
          drop(id);
        } else {
          const problem = sentenceOf(failure, `“${file.name}” could not be sent.`);
          if (here.current) {
            patch(id, { problem, stop: () => drop(id) });
          } else {
            // The sheet was left meanwhile: it is told on whatever page is open.
            tell(problem);
          }
        }
      }
    }
  };
  return { sending, add };
}
