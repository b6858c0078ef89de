import { api, page, reply, type Schema } from "../api/client";
import { settings } from "../settings.svelte";
import { tables } from "../tables.svelte";
import { uuid7 } from "../uuid";
import { Saver } from "./saver.svelte";
import { PhotoTray } from "./photos.svelte";
import { StationState, type Reckoned } from "./station.svelte";

export type Visit = Schema["VisitAnswer"];
export type Step = Schema["StepAnswer"];
type StepRow = Schema["StepRow"];
type Finding = Schema["FindingRow"];

export interface StepValue {
  status: Schema["StepSave"]["status"];
  reason: string;
  note: string;
}

export interface FindingValue {
  id: string;
  condition: Schema["FindingSave"]["condition"] | "";
  note: string;
  lookAgain: string | null;
  stopCode: string | null;
  /** The condition of another step that this one knowingly takes the place of. */
  covers: Schema["FindingSave"]["covers"];
}

/** Reads a visit's document. */
export const readVisit = (id: string) =>
  page(`visit.${id}`, api.GET("/api/visits/{id}", { params: { path: { id }, query: { units: settings.system } } }));

/** What keeps a piece of a flue the same. */
export const pieceId = (piece: Schema["SegmentEntry"]) => piece.id ?? piece.label ?? "";

/** Typical thickness of each segment of a flue, mm. */
export function depositsOf(flue: Schema["FlueEntry"], found: Schema["SweepRecord"]["found"]): number[] {
  return (flue.segments ?? []).map((s) => found?.[pieceId(s)]).map((d) => d?.mm ?? d?.worstMm ?? 0);
}

/** Conditions, the gravest first: unsafe, spent, wearing, not seen, sound. */
export const gravity = ["unsafe", "spent", "wearing", "not-seen", "sound"];

/** One visit on screen: the document, a saver for every step and finding, and every station. */
export class VisitState {
  doc = $state() as Visit;
  steps: Record<string, Saver<StepValue, StepRow>> = {};
  stations: Record<string, StationState> = {};
  findings = $state<Record<string, Saver<FindingValue, Finding>>>({});
  /** What the picture shows while a reading is typed. */
  draft = $state<{ answer: Schema["DraftAnswer"]; readingPa: number | null } | null>(null);
  /** What is left after the sweep, mm by segment, while the drawing shows that. */
  afterMm = $state<number[] | null>(null);
  /** The outside-air duct as it is laid, from the stove to the intake; drawn in the elevation. */
  duct = $state<Schema["LaidPoint"][] | null>(null);
  /** Takes a run of the duct that is dragged to a length in the elevation, while it may be changed. */
  stretchDuct = $state<((run: number, lengthM: number) => void) | null>(null);
  /** The hot test as it runs; drawn beside it, time upward. */
  run = $state<{ answer: Schema["HotRunAnswer"]; samples: Schema["RunReading"][]; minute: number } | null>(null);
  /** Takes a part that is tapped in the stove's drawing, while a station wants it; otherwise the part's step opens. */
  takesPart = $state<((part: string) => void) | null>(null);
  /** The segment that is picked in the sweep; the one after the last is the cap. */
  segment = $state(0);

  photos: PhotoTray;

  constructor(doc: Visit) {
    this.doc = doc;
    this.photos = new PhotoTray(this.id, () => this.refresh());
    for (const step of doc.steps) {
      this.steps[step.code] = this.stepSaver(step);
      for (const station of step.stations) {
        this.stations[`${step.code}/${station.code}`] = new StationState(
          `/api/visits/${this.id}/steps/${step.code}/stations/${station.code}`,
          `grate.station.${this.id}.${step.code}.${station.code}`,
          step.code,
          station.code,
          station.name,
          station.saved,
          station.earlier,
          () => void this.refresh(),
        );
      }
      // Findings typed while the server was away come back even if it never saw them.
      for (const mark of step.marks) {
        if (localStorage.getItem(this.findingKey(step.code, mark.code))) this.finding(step.code, mark.code);
      }
    }
    for (const finding of doc.findings)
      this.findings[`${finding.step}/${finding.part}`] ??= this.findingSaver(finding.step, finding.part, finding);
  }

  get id() {
    return this.doc.visit.row.id;
  }

  get signed() {
    return this.doc.visit.row.state === "signed";
  }

  get writable() {
    return this.doc.mayWrite && !this.signed;
  }

  /** A station with its types. */
  station<Entry extends object, Answer extends Reckoned>(step: string, code: string) {
    return this.stations[`${step}/${code}`] as unknown as StationState<Entry, Answer> | undefined;
  }

  /** Thickness in each segment as recorded, mm; null where nothing was recorded yet. */
  get depositsMm(): number[] | null {
    if (this.afterMm) return this.afterMm;
    const found = this.station<Schema["SweepRecord"], Schema["SweepAnswer"]>("sweep", "deposits")?.entry.found;
    return found ? depositsOf(this.doc.flue.flue, found) : null;
  }

  /** What the pieces of the flue are called, by their ids. */
  get pieceNames(): Record<string, string> {
    return Object.fromEntries((this.doc.flue.flue.segments ?? []).map((s) => [pieceId(s), s.label ?? ""]));
  }

  /** Every document that is saved on its own, with the step it stands in and its name. */
  get savers() {
    return [
      ...Object.entries(this.steps).map(([step, saver]) => ({ step, name: this.stepName(step), saver })),
      ...Object.values(this.stations).map((s) => ({ step: `${s.step}/${s.code}`, name: s.name, saver: s.saver })),
      ...Object.entries(this.findings).map(([key, saver]) => ({
        step: key.split("/")[0]!,
        name: tables.partName(key.split("/")[1]!),
        saver,
      })),
    ];
  }

  get unsaved() {
    return this.savers.filter((s) => s.saver.dirty).length + this.photos.waiting.length;
  }

  /** What was refused and stands nowhere yet: where, and why. */
  get refused() {
    return this.savers.filter((s) => s.saver.state === "refused");
  }

  /** Numbers typed here that are a stop, before the server has said so. */
  get stopsAtOnce(): string[] {
    const limits = tables.all?.numericStops;
    if (!limits || this.signed) return [];
    const hot = this.station<Schema["HotTest"], Schema["HotTestAnswer"]>("hot-test", "hot-draft");
    const sweep = this.station<Schema["SweepRecord"], Schema["SweepAnswer"]>("sweep", "deposits")?.entry;
    const sentences: string[] = [];
    if ((hot?.entry.coPpm ?? 0) >= limits.coPpm) sentences.push(limits.coSentence);
    if (hot?.entry.readings?.some((r) => (r.draftPa ?? 0) < limits.draftBelowPa)) sentences.push(limits.draftSentence);
    const worst = Math.max(0, ...Object.values(sweep?.found ?? {}).map((d) => d?.worstMm ?? d?.mm ?? 0));
    if ((sweep?.leftMm ?? worst) >= limits.depositMm) sentences.push(limits.depositSentence);
    return sentences.filter((s) => !this.doc.stops.some((n) => n.sentence === s));
  }

  /** The finding of a part in a step, made when first touched. */
  finding(step: string, part: string) {
    return (this.findings[`${step}/${part}`] ??= this.findingSaver(step, part, null));
  }

  /** Condition of a part in a step. */
  conditionIn(step: string, part: string): string | null {
    return this.findings[`${step}/${part}`]?.value.condition || null;
  }

  /** Condition of a part now: the word of the latest step that saw it. */
  condition(part: string): string | null {
    const said = this.doc.steps.map((step) => this.conditionIn(step.code, part)).filter((c) => c !== null);
    return said.findLast((c) => c !== "not-seen") ?? said.at(-1) ?? null;
  }

  mark(step: string, part: string, condition: FindingValue["condition"]) {
    const finding = this.finding(step, part);
    finding.value.condition = condition;
    finding.changed();
  }

  /** Parts of a step that nobody marked there yet. */
  unmarked(step: Step) {
    return step.marks.filter((mark) => !this.conditionIn(step.code, mark.code));
  }

  /** Marks what is left of a step sound; what another step found otherwise is said part by part. */
  restSound(step: Step) {
    for (const mark of this.unmarked(step).filter((m) => [null, "sound", "not-seen"].includes(this.condition(m.code))))
      this.mark(step.code, mark.code, "sound");
  }

  status(step: Step): StepValue["status"] {
    return this.steps[step.code]!.value.status;
  }

  stepName(code: string) {
    return this.doc.steps.find((s) => s.code === code)?.name ?? code;
  }

  earlierFinding(step: string, part: string) {
    return this.doc.earlier?.findings.find((f) => f.part === part && f.step === step) ?? null;
  }

  async refresh() {
    const answer = await readVisit(this.id);
    if (answer.kind === "ok") this.doc = answer.data;
  }

  /** Takes back what was not sent yet: the part is marked as it was. */
  takeBack(key: string) {
    this.findings[key]?.forget();
    delete this.findings[key];
    const saved = this.doc.findings.find((f) => `${f.step}/${f.part}` === key);
    if (saved) this.findings[key] = this.findingSaver(saved.step, saved.part, saved);
  }

  /** Takes a finding back; one that never reached the server is simply forgotten. */
  async dropFinding(key: string) {
    const finding = this.findings[key];
    if (!finding) return;
    finding.forget();
    delete this.findings[key];
    if (finding.version === 0) return;
    const path = { id: this.id, findingId: finding.value.id };
    const query = { baseVersion: finding.version };
    const answer = await reply(api.DELETE("/api/visits/{id}/findings/{findingId}", { params: { path, query } }));
    // Without a server it stands until one can be asked.
    if (answer.kind !== "ok") this.findings[key] = finding;
    await this.refresh();
  }

  private findingKey(step: string, part: string) {
    return `grate.finding.${this.id}.${step}.${part}`;
  }

  private stepSaver(step: Step) {
    const saved = step.saved;
    const value: StepValue = {
      status: (saved?.status ?? "open") as StepValue["status"],
      reason: saved?.reason ?? "",
      note: saved?.note ?? "",
    };
    return new Saver<StepValue, StepRow>(
      `grate.step.${this.id}.${step.code}`,
      value,
      saved?.version ?? 0,
      (body, stamp) =>
        reply(
          api.PUT("/api/visits/{id}/steps/{step}", {
            params: { path: { id: this.id, step: step.code } },
            body: { ...body, ...stamp },
          }),
        ),
      () => void this.refresh(),
    );
  }

  private findingSaver(step: string, part: string, saved: Finding | null) {
    const value: FindingValue = {
      id: saved?.id ?? uuid7(),
      condition: (saved?.condition ?? "") as FindingValue["condition"],
      note: saved?.note ?? "",
      lookAgain: saved?.lookAgain ?? null,
      stopCode: saved?.stopCode ?? null,
      covers: null,
    };
    return new Saver<FindingValue, Finding>(
      this.findingKey(step, part),
      value,
      saved?.version ?? 0,
      ({ id, condition, ...body }, stamp) =>
        reply(
          api.PUT("/api/visits/{id}/findings/{findingId}", {
            params: { path: { id: this.id, findingId: id } },
            body: { step, part, condition: condition || "sound", ...body, ...stamp },
          }),
        ),
      () => void this.refresh(),
    );
  }
}
