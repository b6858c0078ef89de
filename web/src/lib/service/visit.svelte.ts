import { api, reply, type Schema } from "../api/client";
import { settings } from "../settings.svelte";
import { uuid7 } from "../uuid";
import { Saver } from "./saver.svelte";

export type Visit = Schema["VisitAnswer"];
export type Step = Schema["StepAnswer"];
export type HotReading = Schema["HotReading"];

export interface StepValue {
  status: "open" | "done" | "skipped";
  reason: string;
  note: string;
  hotTest: Schema["HotTest"] | null;
  coldChecks: Schema["ColdChecks"] | null;
  sweep: Schema["SweepStation"] | null;
  wood: Schema["WoodRecord"] | null;
}

export interface FindingValue {
  id: string;
  condition: string;
  note: string;
  lookAgain: string | null;
  stopCode: string | null;
}

type SavedStep = Schema["SavedStep"];
type Finding = Schema["FindingRow"];

/** Typical thickness of each segment of a flue, mm. */
export function depositsOf(flue: Schema["FlueEntry"], found: Schema["SweepRecord"]["found"]): number[] {
  return (flue.segments ?? []).map((s) => found?.[s.label ?? ""]?.mm ?? found?.[s.label ?? ""]?.worstMm ?? 0);
}

export const conditions = [
  { code: "sound", name: "Sound" },
  { code: "wearing", name: "Wearing" },
  { code: "spent", name: "Spent" },
  { code: "unsafe", name: "Unsafe" },
  { code: "not-seen", name: "Not seen" },
] as const;

/** Stations whose numbers make a stop of their own, and the part it stands at. */
export const computedStops: Record<string, string> = { "hot-test": "hot-test", sweep: "deposits" };
export const computedParts = Object.values(computedStops);

/** One visit on screen: the document, and a saver for every step and finding. */
export class VisitState {
  doc = $state() as Visit;
  steps: Record<string, Saver<StepValue, SavedStep>> = {};
  findings = $state<Record<string, Saver<FindingValue, Finding>>>({});
  /** What the picture shows while a reading is typed. */
  reckoned = $state<Schema["HotDraftAnswer"] | null>(null);
  /** What is left after the sweep, mm by segment, while the drawing shows that. */
  afterMm = $state<number[] | null>(null);
  /** The segment that is picked in the sweep; the one after the last is the cap. */
  segment = $state(0);

  constructor(doc: Visit) {
    this.doc = doc;
    for (const step of doc.steps) this.steps[step.code] = this.stepSaver(step);
    for (const finding of doc.findings) this.findings[finding.part] = this.findingSaver(finding.part, finding);
    // Findings typed while the server was away come back even if it never saw them.
    for (const step of doc.steps) {
      for (const part of step.parts) {
        if (!this.findings[part.code] && localStorage.getItem(this.findingKey(part.code))) this.finding(part.code);
      }
    }
  }

  get id() {
    return this.doc.visit.id;
  }

  get writable() {
    return this.doc.mayWrite && this.doc.visit.state === "open";
  }

  /** Thickness in each segment as recorded, mm; null where nothing was recorded yet. */
  get depositsMm(): number[] | null {
    if (this.afterMm) return this.afterMm;
    const found = this.steps["sweep"]?.value.sweep?.record?.found;
    return found ? depositsOf(this.doc.flue.flue, found) : null;
  }

  get unsaved() {
    return [...Object.values(this.steps), ...Object.values(this.findings)].filter((s) => s.dirty).length;
  }

  /** The finding of a part, made when first touched. */
  finding(part: string) {
    return (this.findings[part] ??= this.findingSaver(part, null));
  }

  condition(part: string): string | null {
    return this.findings[part]?.value.condition || null;
  }

  mark(part: string, condition: string) {
    const finding = this.finding(part);
    finding.value.condition = condition;
    finding.changed();
  }

  status(step: Step): StepValue["status"] {
    return this.steps[step.code]!.value.status;
  }

  earlierFinding(part: string) {
    return this.doc.earlier?.findings.find((f) => f.part === part) ?? null;
  }

  async refresh() {
    const answer = await reply(api.GET("/api/visits/{id}", { params: { path: { id: this.id } } }));
    if (answer.kind === "ok") this.doc = answer.data;
  }

  async dropFinding(part: string) {
    const path = { id: this.id, part };
    const answer = await reply(api.DELETE("/api/visits/{id}/findings/{part}", { params: { path } }));
    if (answer.kind !== "ok") return;
    delete this.findings[part];
    await this.refresh();
  }

  private findingKey(part: string) {
    return `grate.finding.${this.id}.${part}`;
  }

  private stepSaver(step: Step) {
    const saved = step.saved;
    const value: StepValue = {
      status: (saved?.status ?? "open") as StepValue["status"],
      reason: saved?.reason ?? "",
      note: saved?.note ?? "",
      hotTest: saved?.hotTest ?? null,
      coldChecks: saved?.coldChecks ?? null,
      sweep: saved?.sweep ?? null,
      wood: saved?.wood ?? null,
    };
    return new Saver<StepValue, SavedStep>(
      `grate.step.${this.id}.${step.code}`,
      value,
      saved?.version ?? 0,
      (body, stamp) =>
        reply(
          api.PUT("/api/visits/{id}/steps/{step}", {
            params: { path: { id: this.id, step: step.code }, query: { units: settings.system } },
            body: { ...body, ...stamp },
          }),
        ),
      (mine, stored) => mine.note === stored.note && mine.status === stored.status && mine.reason === stored.reason,
      () => {
        const part = computedStops[step.code];
        if (part) void this.refresh().then(() => this.syncStop(part));
      },
    );
  }

  // The server keeps stops of its own from the numbers of a station; they show among the findings.
  private syncStop(part: string) {
    const stop = this.doc.findings.find((f) => f.part === part);
    if (stop) this.findings[part] = this.findingSaver(part, stop);
    else delete this.findings[part];
  }

  private findingSaver(part: string, saved: Finding | null) {
    const value: FindingValue = {
      id: saved?.id ?? uuid7(),
      condition: saved?.condition ?? "",
      note: saved?.note ?? "",
      lookAgain: saved?.lookAgain ?? null,
      stopCode: saved?.stopCode ?? null,
    };
    return new Saver<FindingValue, Finding>(
      this.findingKey(part),
      value,
      saved?.version ?? 0,
      ({ id, ...body }, stamp) =>
        reply(
          api.PUT("/api/visits/{id}/findings/{findingId}", {
            params: { path: { id: this.id, findingId: id } },
            body: { part, ...body, ...stamp },
          }),
        ),
      (mine, stored) => mine.condition === stored.condition && mine.note === stored.note,
      () => void this.refresh(),
    );
  }
}
