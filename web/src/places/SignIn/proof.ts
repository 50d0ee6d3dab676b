import { useSyncExternalStore } from "react";

/** A question to whoever is here: prove who it is. */
interface Question {
  sentence: string;
  answer: (done: boolean) => void;
}

let question: Question | undefined;
const listeners = new Set<() => void>();

function set(next: Question | undefined) {
  question = next;
  listeners.forEach((listener) => listener());
}

/** Asks, and answers whether it was done; one question at a time. */
export const askForProof = (sentence: string) =>
  new Promise<boolean>((resolve) => {
    question?.answer(false);
    set({
      sentence,
      answer: (done) => {
        set(undefined);
        resolve(done);
      },
    });
  });

const subscribe = (listener: () => void) => {
  listeners.add(listener);
  return () => void listeners.delete(listener);
};

export const useQuestion = () => useSyncExternalStore(subscribe, () => question);
