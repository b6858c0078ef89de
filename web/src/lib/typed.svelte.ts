const start = "grate.typed.";

/** What is typed on a page and not sent yet: it outlives leaving the page and a reload, in this tab. */
export class Typed<T extends object> {
  // One of each: a page that is drawn anew while it is sent goes on with it.
  private static all: Record<string, Typed<object>> = {};

  change = $state<Partial<T>>({});
  /** Whether it was typed before this page was opened. */
  before = $state(false);

  private constructor(private readonly name: string) {
    try {
      this.change = JSON.parse(sessionStorage.getItem(start + name) ?? "{}") as Partial<T>;
    } catch {
      // What cannot be read any more is none.
    }
  }

  /** What is typed under a name. */
  static of<T extends object>(name: string): Typed<T> {
    const typed = (this.all[name] ??= new Typed(name)) as Typed<T>;
    typed.before = Object.keys(typed.change).length > 0;
    return typed;
  }

  /** Forgets all that was typed, by whoever signs out. */
  static forgetAll() {
    for (const key of Object.keys(sessionStorage)) if (key.startsWith(start)) sessionStorage.removeItem(key);
    this.all = {};
  }

  /** Adds to what is typed. */
  set(change: Partial<T>) {
    this.change = { ...this.change, ...change };
    try {
      sessionStorage.setItem(start + this.name, JSON.stringify(this.change));
    } catch {
      // A full store keeps nothing: it is on the page until that is left.
    }
  }

  /** It was sent, or is not wanted. */
  forget() {
    this.change = {};
    this.before = false;
    sessionStorage.removeItem(start + this.name);
  }
}
