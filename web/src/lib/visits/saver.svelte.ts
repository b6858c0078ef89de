import type { Reply } from "../api/client";
import { uuid7 } from "../uuid";

export type SaveState = "saved" | "typing" | "saving" | "waiting" | "refused" | "stale";

const pause = 700;
const retry = 3000;

/** What a save sends along so that a repeated send is the same send, and a stale one is noticed. */
export interface Stamp {
  saveId: string;
  baseVersion: number;
}

/** What every stored document tells of its last save. */
export interface Stored {
  version: number;
  saveId: string;
  savedBy: string;
}

interface Kept<T> {
  value: T;
  saveId: string;
  version: number;
  lost: string[];
}

// What cannot be read any more is none.
function keptAt<T>(key: string): Kept<T> | null {
  try {
    return JSON.parse(localStorage.getItem(key) ?? "null") as Kept<T> | null;
  } catch {
    return null;
  }
}

/**
 * Keeps one document saved: what is typed is kept in this browser at once, sent after a short pause, sent again
 * while the server is away, and offered for merging when someone else saved in between.
 */
export class Saver<T, S extends Stored> {
  value = $state() as T;
  state = $state<SaveState>("saved");
  errors = $state<Record<string, string[]>>({});
  sentence = $state("");
  /** A word that what was sent would take back, where it was refused for that. */
  covered = $state<string | null>(null);
  stored = $state<S | null>(null);
  /** Whether what was typed outlives a reload: a full browser store keeps nothing. */
  keptHere = $state(true);
  /** Whether what was typed is not whole yet: nothing is sent before the next change. */
  held = $state(false);
  version = $state(0);
  private saveId = "";
  private sending = false;
  /** Saves that were sent and never answered: the server may hold one of them. */
  private lost: string[] = [];
  private timer: ReturnType<typeof setTimeout> | undefined;

  constructor(
    private readonly key: string,
    value: T,
    version: number,
    private readonly send: (value: T, stamp: Stamp) => Promise<Reply<S>>,
    private readonly onSaved: (stored: S) => void,
  ) {
    this.value = value;
    this.version = version;
    const typed = keptAt<T>(key);
    if (typed) {
      this.value = typed.value;
      this.version = typed.version;
      this.saveId = typed.saveId;
      this.lost = typed.lost;
      this.state = "waiting";
      this.later(0);
    }
  }

  get dirty() {
    return this.state !== "saved";
  }

  /** Call after every change of the value; sent after a pause, a longer one where it may be taken back. */
  changed(after = pause) {
    this.saveId = uuid7();
    this.keep();
    this.errors = {};
    this.held = false;
    if (this.state === "stale") return;
    this.state = "typing";
    this.later(after);
  }

  /** The value is not whole yet: nothing is kept or sent before the next change. */
  hold() {
    clearTimeout(this.timer);
    this.errors = {};
    this.held = true;
    this.state = "typing";
  }

  /** Sends what is unsaved now. */
  async flush() {
    clearTimeout(this.timer);
    if (!this.dirty || this.held || this.sending || this.state === "stale") return;
    this.sending = true;
    this.state = "saving";
    const saveId = this.saveId;
    const answer = await this.send($state.snapshot(this.value) as T, { saveId, baseVersion: this.version });
    this.sending = false;
    if (answer.kind === "ok") {
      this.version = answer.data.version;
      this.lost = [];
      this.onSaved(answer.data);
      if (saveId === this.saveId) this.settle();
      else this.later(0);
      return;
    }
    if (answer.kind === "away") {
      if (!this.lost.includes(saveId)) this.lost.push(saveId);
      this.keep();
      this.sentence = answer.sentence;
      this.state = "waiting";
      this.later(retry);
      return;
    }
    const stored = answer.problem.stored as S | null | undefined;
    if (answer.status === 409 && stored) {
      // An earlier send of ours whose answer was lost is not someone else's version; only its id tells.
      if (this.lost.includes(stored.saveId)) {
        this.version = stored.version;
        this.lost = [];
        this.state = "typing";
        this.later(0);
        return;
      }
      this.stored = stored;
      this.state = "stale";
      return;
    }
    // What was typed while the answer was on its way is another save: it is sent, whatever became of the one before.
    if (saveId !== this.saveId) {
      this.state = "typing";
      this.later(0);
      return;
    }
    this.errors = answer.problem.errors ?? {};
    this.covered = answer.problem.covered ?? null;
    this.sentence = answer.problem.title ?? "";
    this.state = "refused";
  }

  /** After a stale save: go on from the stored version with a value merged from both. */
  resolve(value: T) {
    if (!this.stored) return;
    this.version = this.stored.version;
    this.stored = null;
    this.value = value;
    this.state = "typing";
    this.changed();
  }

  /** Forgets what was typed and not saved. */
  forget() {
    clearTimeout(this.timer);
    this.settle();
  }

  private settle() {
    localStorage.removeItem(this.key);
    this.lost = [];
    this.sentence = "";
    this.errors = {};
    this.state = "saved";
  }

  private keep() {
    const value = $state.snapshot(this.value) as T;
    const kept: Kept<T> = { value, saveId: this.saveId, version: this.version, lost: this.lost };
    try {
      localStorage.setItem(this.key, JSON.stringify(kept));
      this.keptHere = true;
    } catch {
      // A full browser store keeps nothing; what is typed is sent all the same, and it is said.
      this.keptHere = false;
    }
  }

  private later(ms: number) {
    clearTimeout(this.timer);
    this.timer = setTimeout(() => void this.flush(), ms);
  }
}
