import { useEffect, useState, useSyncExternalStore } from "react";
import { hold, saverOf, type Saving } from "./saving";

/** The saver of something that is on this page: its draft, how it stands, and what changes it. */
export function useSaver<D, V>(key: string, stored: V, saving: Saving<D, V>) {
  const [held, setHeld] = useState(() => ({ key, saver: saverOf(key, stored, saving) }));
  let { saver } = held;
  if (held.key !== key) {
    saver = saverOf(key, stored, saving);
    setHeld({ key, saver });
  }
  useEffect(() => hold(saver), [saver]);
  useEffect(() => {
    saver.arrived(stored, saving);
  });
  return { ...useSyncExternalStore(saver.subscribe, saver.snapshot), saver };
}
