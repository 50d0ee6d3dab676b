import { useEffect, useLayoutEffect, useRef } from "react";

/** Keys that work on the page at hand; letters only while nobody types. "g j" is g, then j. */
export type Shortcuts = Record<string, () => void>;

/** What the list of shortcuts says. */
export const shortcutList = [
  ["g b", "Bench"],
  ["g j", "Jobs"],
  ["g c", "Coolers"],
  ["g a", "Air"],
  ["g r", "Records"],
  ["g p", "Practice"],
  ["g w", "Workshop"],
  ["n", "A new machine comes in"],
  ["/", "Search"],
  ["j  k", "Next, previous"],
  ["Enter", "Open"],
  ["Space", "Start or stop the bay in focus"],
  ["Page down", "Tick the step at the bench; Space and Enter too"],
  [".", "Do the Now card"],
  ["u", "Undo the last change"],
  ["?", "This list"],
] as const;

const typing = (target: EventTarget | null) =>
  target instanceof HTMLElement && (target.isContentEditable || /^(INPUT|TEXTAREA|SELECT)$/.test(target.tagName));

/** Keys that a button or a link has a use for itself. */
const ownKey = (target: EventTarget | null, key: string) =>
  (key === " " || key === "Enter") &&
  target instanceof HTMLElement &&
  target.closest("button, a, summary, [role=button], [role=menuitem]") !== null;

/** While something lies over the page, its keys are meant; the list of shortcuts closes by its own. */
const covered = (key: string) =>
  key !== "?" && document.querySelector("dialog[open], [role=dialog], [role=menu]") !== null;

const secondKeyWithin = 1500;
let first: { key: string; at: number } | undefined;

export function useShortcuts(shortcuts: Shortcuts) {
  const latest = useRef(shortcuts);
  // Before anybody sees what is drawn: a key that is pressed at once means that, and not what stood there before.
  useLayoutEffect(() => {
    latest.current = shortcuts;
  });
  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      if (
        event.ctrlKey ||
        event.metaKey ||
        event.altKey ||
        event.defaultPrevented ||
        typing(event.target) ||
        ownKey(event.target, event.key) ||
        covered(event.key)
      ) {
        return;
      }
      const pair = first && Date.now() - first.at < secondKeyWithin ? `${first.key} ${event.key}` : "";
      const action = latest.current[pair] ?? latest.current[event.key];
      if (event.key === "g") {
        first = { key: "g", at: Date.now() };
      }
      if (action) {
        event.preventDefault();
        action();
      }
    };
    window.addEventListener("keydown", onKey);
    return () => window.removeEventListener("keydown", onKey);
  }, []);
}
