import { useEffect, useRef, useState } from "react";
import { sentenceOf } from "../../api/client";
import type { JobActions } from "../../api/jobs";
import { sendLog } from "../../api/upload";
import { tell } from "../../parts/told";

/** A log on its way to the server; after that the job sheet itself tells how it goes on. */
export interface Sending {
  id: number;
  mount: string;
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

  const add = async (mount: string, files: readonly File[]) => {
    // The conditions of NAME.csv lie beside it as NAME.conditions.json, and go with it.
    const beside = new Map(files.filter(isConditions).map((file) => [stem(file.name, ".conditions.json"), file]));
    const logs = files.filter((file) => !isConditions(file));
    for (const [name, file] of beside) {
      if (!logs.some((log) => stem(log.name) === name)) {
        tell(`“${file.name}” belongs to a log: drop both together.`);
      }
    }
    for (const file of logs) {
      const id = next.current++;
      const abort = new AbortController();
      setSending((all) => [...all, { id, mount, name: file.name, share: 0, stop: () => abort.abort() }]);
      try {
        const conditions = await beside.get(stem(file.name))?.text();
        await sendLog(jobId, mount, conditions, file, (share) => patch(id, { share }), abort.signal);
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

const isConditions = (file: File) => file.name.toLowerCase().endsWith(".conditions.json");

/** A name without its ending, in small letters. */
const stem = (name: string, ending?: string) =>
  name.slice(0, ending ? -ending.length : name.lastIndexOf(".") >>> 0).toLowerCase();
