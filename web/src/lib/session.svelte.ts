import { goto } from "$app/navigation";
import { access, api, reply, type Schema } from "./api/client";
import { clock } from "./clock";
import { daysOf } from "./dates";
import { settings } from "./settings.svelte";
import { tables } from "./tables.svelte";
import { Typed } from "./typed.svelte";

/** Who is signed in. */
class Session {
  state = $state<Schema["SessionState"] | null>(null);
  away = $state(false);
  private asked = 0;
  private newest: Promise<void> = Promise.resolve();

  /** A sum of the firm's money. */
  money(sum: number): string {
    return `${sum.toFixed(2)} ${this.state?.currency ?? ""}`;
  }

  get person() {
    return this.state?.person ?? null;
  }

  /** Asks who is signed in; whoever is overtaken by a later question gets that one's answer. */
  load(): Promise<void> {
    return (this.newest = this.ask(++this.asked));
  }

  private async ask(turn: number): Promise<void> {
    const answer = await reply(api.GET("/api/session"));
    // Asked before somebody signed in and answered after it, this would sign them out again.
    if (turn !== this.asked) return this.newest;
    this.away = answer.kind === "away";
    if (answer.kind !== "ok") return;
    this.state = answer.data;
    settings.begin(answer.data.units);
    document.documentElement.dataset.paper = answer.data.paper;
    daysOf(answer.data.timeZone);
    clock.set(answer.data.now, answer.data.clockSpeed);
    if (answer.data.person) await tables.load();
  }

  async signIn(email: string, password: string): Promise<string | null> {
    const answer = await reply(api.POST("/api/session", { body: { email, password } }));
    if (answer.kind === "away") return answer.sentence;
    if (answer.kind === "problem") {
      return answer.problem.title ?? "Sign-in failed.";
    }
    await this.load();
    return null;
  }

  async signOut() {
    await reply(api.DELETE("/api/session"));
    Typed.forgetAll();
    await goto("/sign-in");
    await this.load();
  }
}

export const session = new Session();
access.lost = () => void session.load();
