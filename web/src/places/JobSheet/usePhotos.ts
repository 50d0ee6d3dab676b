import { useState } from "react";
import { sentenceOf } from "../../api/client";
import type { JobActions } from "../../api/jobs";

export const isPicture = (file: File) => file.type.startsWith("image/");

/** Sends pictures, one after the other; one that is refused says why and holds up none. */
export function usePhotos(actions: JobActions) {
  const [sending, setSending] = useState(0);
  const [problem, setProblem] = useState<string>();
  const add = async (files: readonly File[], kind: "photo" | "proof" = "photo") => {
    setProblem(undefined);
    setSending((count) => count + files.length);
    for (const file of files) {
      try {
        await actions.addPhoto(kind, file);
      } catch (failure) {
        setProblem(sentenceOf(failure, `“${file.name}” could not be sent.`));
      }
      setSending((count) => count - 1);
    }
  };
  return { add, sending, problem };
}

export type Photos = ReturnType<typeof usePhotos>;
