import clsx from "clsx";
import { Button } from "./Button";
import type { SaveState } from "./saving";

const quietWords: Partial<Record<SaveState["kind"], string>> = { saving: "Saving …", saved: "Saved" };

/** How a draft stands, in words; where somebody else has changed the same, both are shown until one is chosen. */
export function SaveWords({
  id,
  state,
  mine,
  words,
  onMine,
  onTheirs,
}: {
  id?: string;
  state: SaveState;
  mine: string;
  /** The other's value in words. */
  words: (theirs: unknown) => string;
  onMine: () => void;
  onTheirs: () => void;
}) {
  if (state.kind === "conflict") {
    return (
      <div id={id} role="alert" className="mt-2 border-l-4 border-amber pl-3">
        <p>
          {state.by ?? "Somebody"} changed this while you typed. Theirs:{" "}
          <strong>{words(state.theirs) || "(empty)"}</strong>. Yours: <strong>{mine || "(empty)"}</strong>.
        </p>
        <div className="mt-2 flex gap-2">
          <Button onClick={onMine}>Keep mine</Button>
          <Button onClick={onTheirs}>Take theirs</Button>
        </div>
      </div>
    );
  }
  const sentence = state.kind === "wrong" || state.kind === "unsaved" ? state.sentence : undefined;
  return (
    <p
      id={id}
      role={sentence ? "alert" : "status"}
      className={clsx("mt-1 min-h-0", sentence ? "font-semibold text-amber" : "text-sm text-muted")}
    >
      {sentence ? (state.kind === "wrong" ? `Not saved: ${sentence}` : sentence) : (quietWords[state.kind] ?? "")}
    </p>
  );
}
