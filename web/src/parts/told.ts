import { useSyncExternalStore } from "react";
import { sentenceOf } from "../api/client";

/** What went wrong and belongs to no field: told in one place, until it is put away. */
let sentences: readonly { id: number; sentence: string }[] = [];
let next = 1;
const listeners = new Set<() => void>();

function set(now: typeof sentences) {
  sentences = now;
  listeners.forEach((listener) => listener());
}

export function tell(sentence: string) {
  set([...sentences.filter((one) => one.sentence !== sentence).slice(-3), { id: next++, sentence }]);
}

export const putAway = (id: number) => set(sentences.filter((one) => one.id !== id));

/** Does something whose answer nobody waits for; when it fails, it is told. */
export function telling(change: Promise<unknown>, otherwise = "It could not be done."): void {
  change.catch((failure: unknown) => tell(sentenceOf(failure, otherwise)));
}

const subscribe = (listener: () => void) => {
  listeners.add(listener);
  return () => void listeners.delete(listener);
};

export const useTold = () => useSyncExternalStore(subscribe, () => sentences);
