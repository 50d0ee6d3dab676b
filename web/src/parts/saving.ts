import { Problem } from "../api/client";

/** How a draft stands. */
export type SaveState =
  | { kind: "still" }
  | { kind: "waiting" }
  | { kind: "saving" }
  | { kind: "saved" }
  | { kind: "wrong"; sentence: string }
  | { kind: "unsaved"; sentence: string }
  | { kind: "conflict"; theirs: unknown; by: string | null };

export type Parsed<V> = { value: V } | { sentence: string };

/** What a saver is told anew with each drawing. */
export interface Saving<D, V> {
  format: (stored: V) => D;
  /** The value of a draft, or the sentence that says why it is none. */
  parse: (draft: D) => Parsed<V>;
  /** Sends it on top of the value that the draft was begun on. */
  save: (value: V, base: V) => Promise<unknown>;
}

export interface Shown<D> {
  draft: D;
  state: SaveState;
  dirty: boolean;
}

const pauseBeforeSaving = 600;
const pauseBeforeRetry = 3000;

const same = (a: unknown, b: unknown) => JSON.stringify(a) === JSON.stringify(b);

/**
 * The one save machine, under every field, choice, form and plan. A draft is kept while it is made, in this browser's storage as well, together with the value that
 * it was begun on; it is sent a moment later, one save of a field at a time, each on top of the one before. What could not be sent is tried again; what somebody else has
 * changed meanwhile is shown beside it, and neither is overwritten until somebody chooses.
 */
export class Saver<D, V> {
  private base: V;
  private shown: Shown<D>;
  private timer: ReturnType<typeof setTimeout> | undefined;
  private sending: Promise<void> | undefined;
  private readonly listeners = new Set<() => void>();

  constructor(
    readonly key: string,
    stored: V,
    private saving: Saving<D, V>,
  ) {
    const kept = readDraft<D, V>(key);
    this.base = kept ? kept.base : stored;
    this.shown = {
      draft: kept ? kept.draft : saving.format(stored),
      state: { kind: kept ? "waiting" : "still" },
      dirty: kept !== undefined,
    };
    if (kept) {
      this.timer = setTimeout(() => void this.flush(), 0);
    }
  }

  subscribe = (listener: () => void) => {
    this.listeners.add(listener);
    return () => void this.listeners.delete(listener);
  };

  snapshot = () => this.shown;

  get idle() {
    return !this.shown.dirty && this.sending === undefined;
  }

  /** The server holds this now, and so it is sent from now on; a draft that is being made is left alone. */
  arrived(stored: V, saving: Saving<D, V> = this.saving) {
    this.saving = saving;
    if (!this.shown.dirty && this.sending === undefined && !same(stored, this.base)) {
      this.base = stored;
      this.show({ draft: this.saving.format(stored) });
    }
  }

  /** Another draft, or what is made of the one at hand. */
  change(next: D | ((now: D) => D), now = false) {
    const draft = typeof next === "function" ? (next as (now: D) => D)(this.shown.draft) : next;
    writeDraft(this.key, draft, this.base);
    if (this.shown.state.kind === "conflict") {
      this.show({ draft, dirty: true });
      return;
    }
    this.show({ draft, dirty: true, state: { kind: "waiting" } });
    clearTimeout(this.timer);
    this.timer = setTimeout(() => void this.flush(), now ? 0 : pauseBeforeSaving);
  }

  /** Sends at once what waits. */
  flush = async (): Promise<void> => {
    clearTimeout(this.timer);
    if (this.sending !== undefined || !this.shown.dirty || this.shown.state.kind === "conflict") {
      return this.sending;
    }
    this.sending = this.send();
    await this.sending;
    this.sending = undefined;
    if (this.shown.dirty && this.shown.state.kind === "waiting") {
      await this.flush();
    }
  };

  keepMine() {
    if (this.shown.state.kind === "conflict") {
      this.base = this.shown.state.theirs as V;
      writeDraft(this.key, this.shown.draft, this.base);
      this.show({ state: { kind: "waiting" } });
      void this.flush();
    }
  }

  takeTheirs() {
    if (this.shown.state.kind === "conflict") {
      this.base = this.shown.state.theirs as V;
      forgetDraft(this.key);
      this.show({ draft: this.saving.format(this.base), dirty: false, state: { kind: "still" } });
    }
  }

  /** Drops the draft. */
  dropDraft() {
    clearTimeout(this.timer);
    forgetDraft(this.key);
    this.show({ draft: this.saving.format(this.base), dirty: false, state: { kind: "still" } });
  }

  private async send() {
    const sent = this.shown.draft;
    const parsed = this.saving.parse(sent);
    if ("sentence" in parsed) {
      this.show({ state: { kind: "wrong", sentence: parsed.sentence } });
      return;
    }
    this.show({ state: { kind: "saving" } });
    try {
      await this.saving.save(parsed.value, this.base);
      this.base = parsed.value;
      if (same(this.shown.draft, sent)) {
        forgetDraft(this.key);
        this.show({ dirty: false, state: { kind: "saved" } });
      } else {
        writeDraft(this.key, this.shown.draft, this.base);
        this.show({ state: { kind: "waiting" } });
      }
    } catch (failure) {
      this.refused(failure instanceof Problem ? failure : new Problem(0, "Not saved yet."), sent);
    }
  }

  private refused(problem: Problem, sent: D) {
    if (problem.status === 409 && "theirs" in problem.more) {
      const by = typeof problem.more.by === "string" ? problem.more.by : null;
      this.show({ state: { kind: "conflict", theirs: problem.more.theirs, by } });
    } else if (problem.mayPass) {
      this.show({ state: { kind: "unsaved", sentence: problem.message } });
      this.timer = setTimeout(() => void this.flush(), pauseBeforeRetry);
    } else if (same(this.shown.draft, sent)) {
      this.show({ state: { kind: "wrong", sentence: problem.message } });
    } else {
      // What was refused is not what stands there any more.
      this.show({ state: { kind: "waiting" } });
    }
  }

  private show(change: Partial<Shown<D>>) {
    this.shown = { ...this.shown, ...change };
    this.listeners.forEach((listener) => listener());
  }
}

/** Savers by key: however often a field stands on a page, it has one. */
const savers = new Map<string, { saver: Saver<unknown, unknown>; users: number }>();

/** The saver of a key, made where there is none. */
export function saverOf<D, V>(key: string, stored: V, saving: Saving<D, V>): Saver<D, V> {
  let known = savers.get(key);
  if (!known) {
    known = { saver: new Saver<D, V>(key, stored, saving) as unknown as Saver<unknown, unknown>, users: 0 };
    savers.set(key, known);
  }
  return known.saver as unknown as Saver<D, V>;
}

/** Holds a saver as long as it is on a page. Whoever leaves sends at once what still waits; what cannot be sent stays in the storage. */
export function hold<D, V>(saver: Saver<D, V>) {
  const known = savers.get(saver.key) ?? { saver: saver as unknown as Saver<unknown, unknown>, users: 0 };
  savers.set(saver.key, known);
  known.users++;
  return () => {
    if (--known.users === 0) {
      void known.saver.flush().finally(() => {
        if (known.users === 0 && savers.get(saver.key) === known) {
          savers.delete(saver.key);
        }
      });
    }
  };
}

/** For tests: forgets every saver. */
export const forgetSavers = () => savers.clear();

/** Drafts are of one person in one workshop: nobody sends another's in his own name. */
let prefix = "draft::";

export const draftsAreOf = (me: { id: string; workshopId: string; temperatureUnit: string }) => {
  // What was typed in other degrees is not read in these.
  prefix = `draft:${me.workshopId}:${me.id}:${me.temperatureUnit === "celsius" ? "" : `${me.temperatureUnit}:`}`;
};

/** Sends at once all that waits on this page. */
export const flushAll = () => Promise.all([...savers.values()].map(({ saver }) => saver.flush()));

interface Draft<D, V> {
  draft: D;
  base: V;
}

/** The keys of all drafts that wait in this browser. */
export function keptDrafts(): string[] {
  try {
    return Object.keys(localStorage)
      .filter((name) => name.startsWith(prefix))
      .map((name) => name.slice(prefix.length));
  } catch {
    return [];
  }
}

export function readDraft<D, V>(key: string): Draft<D, V> | undefined {
  try {
    const kept = localStorage.getItem(prefix + key);
    const draft = kept ? (JSON.parse(kept) as Partial<Draft<D, V>>) : undefined;
    return draft && "draft" in draft && "base" in draft ? (draft as Draft<D, V>) : undefined;
  } catch {
    return undefined;
  }
}

export function writeDraft(key: string, draft: unknown, base: unknown) {
  try {
    localStorage.setItem(prefix + key, JSON.stringify({ draft, base: base ?? null }));
  } catch {
    // Storage full or forbidden: the draft is still on the page.
  }
}

export function forgetDraft(key: string) {
  try {
    localStorage.removeItem(prefix + key);
  } catch {
    // As above.
  }
}
