import { useCallback, useEffect, useRef, useState } from "react";
import { Problem } from "../api/client";

export type SaveState =
  | { kind: "still" }
  | { kind: "waiting" }
  | { kind: "saving" }
  | { kind: "saved" }
  | { kind: "wrong"; sentence: string }
  | { kind: "unsaved"; sentence: string }
  | { kind: "conflict"; theirs: unknown; by: string | null };

const pauseBeforeSaving = 600;
const pauseBeforeRetry = 3000;

/**
 * Keeps a field's text while it is typed and saves it a moment later. What could not be saved stays in the field, and in this
 * browser's storage until it is saved, so that a closed lid loses nothing. A change from elsewhere is shown beside one's own.
 */
export function useAutosave<T>({
  stored,
  format,
  parse,
  save,
  draftKey,
}: {
  /** The value that the server holds. */
  stored: T;
  format: (value: T) => string;
  /** The value of a text, or the sentence that says why it is none. */
  parse: (text: string) => { value: T } | { sentence: string };
  save: (value: T, base: T) => Promise<unknown>;
  draftKey: string;
}) {
  const [text, setText] = useState(() => readDraft(draftKey)?.text ?? format(stored));
  const [state, setState] = useState<SaveState>({ kind: "still" });
  const [dirty, setDirty] = useState(() => readDraft(draftKey) !== undefined);
  // What the field held when typing began; only a save moves it.
  const base = useRef<T>((readDraft(draftKey)?.base as T | undefined) ?? stored);
  const latest = useRef(text);
  const timer = useRef<ReturnType<typeof setTimeout>>(undefined);
  const busy = useRef(false);

  const storedText = format(stored);
  const [seen, setSeen] = useState(storedText);
  if (storedText !== seen) {
    setSeen(storedText);
    if (!dirty) {
      setText(storedText);
    }
  }

  useEffect(() => {
    if (!dirty) {
      base.current = stored;
      latest.current = format(stored);
    }
  });

  const flushRef = useRef<() => void>(() => undefined);
  const flush = useCallback(async () => {
    clearTimeout(timer.current);
    if (busy.current) {
      return;
    }
    const sent = latest.current;
    const parsed = parse(sent);
    if ("sentence" in parsed) {
      setState({ kind: "wrong", sentence: parsed.sentence });
      return;
    }
    busy.current = true;
    setState({ kind: "saving" });
    try {
      await save(parsed.value, base.current);
      base.current = parsed.value;
      if (latest.current === sent) {
        forgetDraft(draftKey);
        setDirty(false);
        setState({ kind: "saved" });
      }
    } catch (failure) {
      const problem = failure instanceof Problem ? failure : new Problem(0, "Not saved yet.");
      if (problem.status === 409 && "theirs" in problem.more) {
        setState({ kind: "conflict", theirs: problem.more.theirs, by: (problem.more.by as string | null) ?? null });
      } else if (problem.mayPass) {
        setState({ kind: "unsaved", sentence: problem.message });
        timer.current = setTimeout(() => flushRef.current(), pauseBeforeRetry);
      } else {
        setState({ kind: "wrong", sentence: problem.message });
      }
    } finally {
      busy.current = false;
      if (latest.current !== sent) {
        flushRef.current();
      }
    }
  }, [parse, save, draftKey]);

  useEffect(() => {
    flushRef.current = () => void flush();
  });

  const change = (next: string, now = false) => {
    setText(next);
    setDirty(true);
    latest.current = next;
    writeDraft(draftKey, next, base.current);
    setState({ kind: "waiting" });
    clearTimeout(timer.current);
    timer.current = setTimeout(() => flushRef.current(), now ? 0 : pauseBeforeSaving);
  };

  // A draft from an earlier visit is saved on arrival; leaving saves at once what still waits.
  useEffect(() => {
    if (readDraft(draftKey)) {
      timer.current = setTimeout(() => flushRef.current(), 0);
    }
    return () => {
      clearTimeout(timer.current);
      if (readDraft(draftKey)) {
        flushRef.current();
      }
    };
  }, [draftKey]);

  return {
    text,
    state,
    dirty,
    change,
    flush: () => (dirty && state.kind !== "conflict" ? void flush() : undefined),
    keepMine: (theirs: T) => {
      base.current = theirs;
      void flush();
    },
    takeTheirs: (theirs: T) => {
      base.current = theirs;
      latest.current = format(theirs);
      forgetDraft(draftKey);
      setText(format(theirs));
      setDirty(false);
      setState({ kind: "still" });
    },
  };
}

function readDraft(key: string): { text: string; base: unknown } | undefined {
  try {
    const draft = localStorage.getItem(`draft:${key}`);
    return draft ? (JSON.parse(draft) as { text: string; base: unknown }) : undefined;
  } catch {
    return undefined;
  }
}

function writeDraft(key: string, text: string, base: unknown) {
  try {
    localStorage.setItem(`draft:${key}`, JSON.stringify({ text, base }));
  } catch {
    // Storage full or forbidden: the text is still in the field.
  }
}

function forgetDraft(key: string) {
  try {
    localStorage.removeItem(`draft:${key}`);
  } catch {
    // As above.
  }
}
