import { api, reply, type Schema } from "../api/client";

const keptS = 60;
const judgeMs = 2000;

/** Instruments connected to a visit: newest values, and the last minute of the draft gauge. */
export class Live {
  state = $state<Schema["BridgeState"] | "off">("off");
  values = $state<Record<string, number>>({});
  /** Draft over the last minute; time in s since connecting. */
  trace = $state.raw<Schema["RunSample"][]>([]);
  dropped = $state(0);
  steadiness = $state<Schema["Steadiness"] | null>(null);
  private source: EventSource | null = null;
  private judge: ReturnType<typeof setInterval> | undefined;
  private startedMs: number | null = null;

  connect(visitId: string) {
    this.close();
    this.state = "lost";
    this.startedMs = null;
    this.source = new EventSource(`/api/visits/${visitId}/instruments`);
    this.source.addEventListener("bridge", (e) => this.take(JSON.parse(e.data as string) as Schema["BridgeEvent"]));
    // The browser connects again by itself; until then nothing is live.
    this.source.onerror = () => (this.state = "lost");
    this.judge = setInterval(() => void this.judgeRun(), judgeMs);
  }

  close() {
    this.source?.close();
    this.source = null;
    clearInterval(this.judge);
    this.state = "off";
    this.trace = [];
    this.values = {};
    this.steadiness = null;
  }

  /** What the last minute comes to, judged by the core; null if too little came. */
  async hold(): Promise<Schema["Steadiness"] | null> {
    await this.judgeRun();
    return this.steadiness;
  }

  private take({ frame, state, dropped }: Schema["BridgeEvent"]) {
    this.state = state;
    this.dropped = dropped;
    if (state === "none") this.source?.close();
    if (!frame) return;
    this.values = { ...this.values, ...frame.values };
    const draftPa = frame.values["draftPa"];
    if (draftPa === undefined) return;
    const ms = Date.parse(frame.at);
    this.startedMs ??= ms;
    const atS = (ms - this.startedMs) / 1000;
    const last = this.trace[this.trace.length - 1];
    if (last && atS < last.atS) return;
    this.trace = [...this.trace.filter((s) => atS - s.atS < keptS), { atS, draftPa }];
  }

  private async judgeRun() {
    if (this.trace.length < 2 || this.state !== "connected") return;
    const from = this.trace[0]!.atS;
    const samples = this.trace.map((s) => ({ atS: s.atS - from, draftPa: s.draftPa }));
    const answer = await reply(api.POST("/api/calculations/steadiness", { body: { samples } }));
    if (answer.kind === "ok") this.steadiness = answer.data;
  }
}
