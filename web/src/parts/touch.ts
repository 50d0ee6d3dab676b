import { hold, saverOf } from "./saving";

/**
 * Saves what one touch sets, on top of what touches before it have set and the server may not have answered yet. Where somebody else has set the same in that moment,
 * theirs stands.
 * @returns Why it was not kept; undefined when it was.
 */
export async function touch<V>(
  key: string,
  stored: V,
  next: (now: V) => V,
  save: (value: V, base: V) => Promise<unknown>,
): Promise<string | undefined> {
  const saving = { format: (value: V) => value, parse: (value: V) => ({ value }), save };
  const saver = saverOf<V, V>(key, stored, saving);
  saver.arrived(stored, saving);
  saver.change((now) => next(now), true);
  const release = hold(saver);
  await saver.flush();
  release();
  const { state } = saver.snapshot();
  if (state.kind === "conflict") {
    saver.takeTheirs();
    return `${state.by ?? "Somebody"} changed this in the same moment; theirs stands. Touch it again if yours holds.`;
  }
  if (state.kind === "wrong") {
    saver.dropDraft();
    return state.sentence;
  }
  return state.kind === "unsaved" ? state.sentence : undefined;
}
