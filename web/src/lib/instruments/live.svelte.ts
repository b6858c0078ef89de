import { api, reply, type Schema } from "../api/client";
import { tables } from "../tables.svelte";

const keptS = 60;
const judgeMs = 2000;
const holdS = 20;
/** Pressures are held as the mean of a run; anything else is taken as it stands. */
const pressures = ["draftPa", "roomPa"];

type Sample = Schema["RunSample"];

/** A run that is being held, from the press on. */
export interface Holding {
  /** What it is held for: a field, or the draft itself. */
  by: string;
  field: string;
  samples: Sample[];
  leftS: number;
}

/** Instruments connected to a visit: newest values, the last minute of the draft gauge, and what is being held. */
class Live {
  state = $state<Schema["BridgeState"] | "off">("off");
  values = $state<Record<string, number>>({});
  /** Draft over the last minute; time in s since connecting. */
  trace = $state.raw<Sample[]>([]);
  dropped = $state(0);
  steadiness = $state<Schema["Steadiness"] | null>(null);
  holding = $state.raw<Holding | null>(null);
  /** The run that was taken last, and why one was not. */
  taken = $state.raw<Sample[]>([]);
  notice = $state("");
  private visitId = "";
  private source: EventSource | null = null;
  private judge: ReturnType<typeof setInterval> | undefined;
  private startedMs: number | null = null;
  private ended: (() => void) | null = null;

  /** Connects to a visit's instruments; stays connected while its stations change. */
  connect(visitId: string) {
    if (this.source && this.visitId === visitId) return;
    this.close();
    this.visitId = visitId;
    this.state = "lost";
    this.startedMs = null;
    this.source = new EventSource(`/api/visits/${visitId}/instruments`);
    this.source.addEventListener("bridge", (e) => this.take(JSON.parse(e.data as string) as Schema["BridgeEvent"]));
    // The browser connects again by itself; until then nothing is live.
    this.source.onerror = () => (this.state = "lost");
    this.judge = setInterval(() => void this.judgeMinute(), judgeMs);
  }

  close() {
    this.stop();
    this.source?.close();
    this.source = null;
    clearInterval(this.judge);
    this.state = "off";
    this.trace = [];
    this.taken = [];
    this.values = {};
    this.steadiness = null;
    this.notice = "";
  }

  has(field: string) {
    return this.state === "connected" && this.values[field] !== undefined;
  }

  /** Ends a hold before its time; what came until then counts. */
  stop() {
    this.ended?.();
  }

  /**
   * Measures from now on for 20 s, or until it is stopped. A jump of the level ends it with a sentence: the mean of two
   * levels is no reading.
   */
  async hold(field: string, by: string): Promise<Schema["Steadiness"] | null> {
    this.stop();
    this.notice = "";
    this.taken = [];
    if (!pressures.includes(field)) {
      const value = this.values[field]!;
      return { meanPa: value } as Schema["Steadiness"];
    }
    this.holding = { by, field, samples: [], leftS: holdS };
    let jumped: Schema["Steadiness"] | null = null;
    await new Promise<void>((end) => {
      const clock = setInterval(() => void tick(), 1000);
      this.ended = () => {
        clearInterval(clock);
        this.ended = null;
        end();
      };
      const tick = async () => {
        if (!this.holding) return;
        this.holding = { ...this.holding, leftS: this.holding.leftS - 1 };
        if (this.holding.leftS <= 0) return this.ended?.();
        const run = await this.judged(this.holding.samples);
        if (run?.stepAtS != null) {
          jumped = run;
          this.ended?.();
        }
      };
    });
    const samples = this.holding?.samples ?? [];
    this.holding = null;
    const run: Schema["Steadiness"] | null = jumped ?? (await this.judged(samples));
    if (run?.stepAtS != null) {
      this.notice = `After ${run.stepAtS.toFixed(0)} s it jumped from ${tables.show(run.stepFromPa!, "draft")} to ${tables.show(run.stepToPa!, "draft")}: nothing was taken. Hold again when it has settled.`;
      return null;
    }
    if (!run) this.notice = "Too few readings came: nothing was taken.";
    else this.taken = samples;
    return run;
  }

  private take({ frame, state, dropped }: Schema["BridgeEvent"]) {
    this.state = state;
    this.dropped = dropped;
    if (state === "none") this.source?.close();
    if (!frame) return;
    this.values = { ...this.values, ...frame.values };
    const ms = Date.parse(frame.at);
    this.startedMs ??= ms;
    const atS = (ms - this.startedMs) / 1000;
    const held = this.holding && frame.values[this.holding.field];
    if (this.holding && held !== undefined && held !== null) {
      this.holding = { ...this.holding, samples: [...this.holding.samples, { atS, draftPa: held }] };
    }
    const draftPa = frame.values["draftPa"];
    if (draftPa === undefined) return;
    const last = this.trace[this.trace.length - 1];
    if (last && atS < last.atS) return;
    this.trace = [...this.trace.filter((s) => atS - s.atS <= keptS), { atS, draftPa }];
  }

  private async judged(samples: Sample[]): Promise<Schema["Steadiness"] | null> {
    if (samples.length < 2) return null;
    const from = samples[0]!.atS;
    const run = samples.map((s) => ({ atS: s.atS - from, draftPa: s.draftPa }));
    const answer = await reply(api.POST("/api/calculations/steadiness", { body: { samples: run } }));
    return answer.kind === "ok" ? answer.data : null;
  }

  private async judgeMinute() {
    if (this.state !== "connected") return;
    this.steadiness = (await this.judged(this.trace)) ?? this.steadiness;
  }
}

/** One connection for the whole visit. */
export const live = new Live();
