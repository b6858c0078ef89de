import { ask, reply, type Schema } from "../api/client";
import { settings } from "../settings.svelte";
import { Reckoner } from "./reckoner.svelte";
import { Saver, type Stored } from "./saver.svelte";

type Kept = Schema["KeptStation"];
export type Reckoned = { sentences: Schema["Sentence"][] };

interface Saved extends Stored {
  entry: object;
}

/**
 * One station of a visit on screen: what is entered, what follows, what is refused, and that it is saved. Every
 * station of every part has one of these and nothing else.
 */
export class StationState<Entry extends object = object, Answer extends Reckoned = Reckoned> {
  readonly saver: Saver<Entry, Saved>;
  readonly reckoner = new Reckoner<Answer>();
  /** The entry of the visit before, or none. */
  readonly earlier: Entry | null;

  constructor(
    private readonly address: string,
    key: string,
    readonly step: string,
    readonly code: string,
    readonly name: string,
    saved: Kept | null | undefined,
    earlier: unknown,
    onSaved: () => void,
  ) {
    this.earlier = (earlier ?? null) as Entry | null;
    this.saver = new Saver<Entry, Saved>(
      key,
      (saved?.entry ?? {}) as Entry,
      saved?.version ?? 0,
      (entry, stamp) => reply<Saved>(ask("PUT", this.query(this.address), { ...stamp, entry })),
      onSaved,
    );
    if (saved?.answer) this.reckoner.answer = saved.answer as Answer;
  }

  get entry(): Entry {
    return this.saver.value;
  }

  get answer(): Answer | null {
    return this.reckoner.answer;
  }

  /** Whether anything was entered here. */
  get touched() {
    return this.saver.version > 0 || this.saver.dirty;
  }

  set(change: Partial<Entry>) {
    this.saver.value = { ...this.saver.value, ...change };
    this.saver.changed();
  }

  /** Sentences about a field: those of what is on screen, else those of the save. */
  errors = (field: string): string[] => this.reckoner.refused[field] ?? this.saver.errors[field] ?? [];

  /** Everything that is refused now. */
  get refusals(): string[] {
    const all = Object.values({ ...this.saver.errors, ...this.reckoner.refused }).flat();
    return all.filter((sentence, i) => all.indexOf(sentence) === i);
  }

  /** Reckons what is on screen; call it in an effect that reads what it depends on. */
  reckon(entry: Entry = $state.snapshot(this.saver.value) as Entry, keepLast = false) {
    void this.reckoner.ask(ask<Answer>("POST", this.query(`${this.address}/answer`), entry), keepLast);
  }

  private query(path: string) {
    return `${path}?units=${settings.system}`;
  }
}
