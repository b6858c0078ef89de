import { byField, reply } from "../api/client";

/** What the core says to what is on screen: asked at every change, only the newest answer counts. */
export class Reckoner<T> {
  answer = $state<T | null>(null);
  refused = $state<Record<string, string[]>>({});
  away = $state("");
  private asked = 0;

  /** Asks; a refusal takes the answer away, or leaves the last one where a drawing needs it. */
  async ask(request: Promise<{ data?: T; error?: unknown; response: Response }>, keepLast = false) {
    const mine = ++this.asked;
    const answer = await reply<T>(request);
    if (mine !== this.asked) return;
    this.away = answer.kind === "away" ? "The reckoning waits for the server; what you type is kept." : "";
    this.refused = byField(answer);
    if (answer.kind === "ok") this.answer = answer.data;
    else if (!keepLast && answer.kind === "problem") this.answer = null;
  }
}
