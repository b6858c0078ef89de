import type { Schema } from "../api/client";
import { uuid7 } from "../uuid";

export type Segment = Schema["SegmentEntry"];
export type Fitting = NonNullable<Segment["fittings"]>[number];

/** What is on the drawing board. */
export interface Board {
  stoveXM: number;
  segments: Segment[];
  cap: string;
  screen: boolean;
  obstacles: Schema["Obstacle"][];
}

const mostUndo = 200;

/** A flue being changed: a board, the selected segment, and every board before and after it. */
export class FlueEditor {
  board = $state() as Board;
  selected = $state(0);
  private past = $state<Board[]>([]);
  private future = $state<Board[]>([]);
  /** The last change, so that typing on in one field is one step back. */
  private last = "";

  constructor(
    private readonly key: string,
    /** What is stored. */
    readonly stored: Board,
    /** Collar of the stove, for the first piece on it. */
    private readonly collar: Segment["shape"],
  ) {
    const kept = localStorage.getItem(key);
    this.board = kept ? (JSON.parse(kept) as Board) : ($state.snapshot(stored) as Board);
    if (kept) this.past = [$state.snapshot(stored) as Board];
  }

  get segment(): Segment | undefined {
    return this.board.segments[this.selected];
  }

  get changed() {
    return JSON.stringify(this.board) !== JSON.stringify(this.stored);
  }

  get canUndo() {
    return this.past.length > 0;
  }

  get canRedo() {
    return this.future.length > 0;
  }

  /** Changes the board; changes of one name in a row are one step back. */
  change(name: string, change: (board: Board) => void) {
    if (name !== this.last || name === "") {
      this.past = [...this.past.slice(-mostUndo), $state.snapshot(this.board) as Board];
      this.future = [];
    }
    this.last = name;
    change(this.board);
    this.keep();
  }

  undo() {
    const board = this.past[this.past.length - 1];
    if (!board) return;
    this.past = this.past.slice(0, -1);
    this.future = [...this.future, $state.snapshot(this.board) as Board];
    this.show(board);
  }

  redo() {
    const board = this.future[this.future.length - 1];
    if (!board) return;
    this.future = this.future.slice(0, -1);
    this.past = [...this.past, $state.snapshot(this.board) as Board];
    this.show(board);
  }

  /** Puts another board up, as one step that can be taken back. */
  replace(board: Partial<Board>) {
    // What is put up may be a live part of the page: only its values go on the board.
    const values = $state.snapshot(board) as Partial<Board>;
    this.change("", (b) => Object.assign(b, values));
    this.selected = 0;
  }

  set(field: string, change: Partial<Segment>) {
    const at = this.selected;
    this.change(`${field}.${at}`, (b) => (b.segments[at] = { ...b.segments[at]!, ...change }));
  }

  /** A piece above the selected one, like it but straight and a metre long; the first one sits on the collar. */
  add(after = this.selected) {
    const like = this.board.segments[after];
    const piece: Segment = like
      ? { ...like, id: uuid7(), label: this.unused("piece"), riseM: 1, lengthM: 1, fittings: [], depositMm: 0 }
      : {
          id: uuid7(),
          label: this.unused("connector"),
          construction: "single-wall-steel",
          shape: this.collar ?? { kind: "round", diameterM: 0.15 },
          riseM: 1,
          lengthM: 1,
          surroundings: "indoor",
          fittings: [],
        };
    this.change("", (b) => b.segments.splice(like ? after + 1 : 0, 0, $state.snapshot(piece) as Segment));
    this.selected = like ? after + 1 : 0;
  }

  /** A name that no piece has yet: piece, piece 2, piece 3. */
  private unused(name: string): string {
    const taken = this.board.segments.map((s) => s.label);
    const stem = name.replace(/ \d+$/, "");
    let free = stem;
    for (let i = 2; taken.includes(free); i++) free = `${stem} ${i}`;
    return free;
  }

  remove() {
    const at = this.selected;
    this.change("", (b) => b.segments.splice(at, 1));
    this.selected = Math.max(0, Math.min(at, this.board.segments.length - 1));
  }

  /** Moves the selected piece up (1) or down (−1) the flue. */
  move(by: 1 | -1) {
    const [from, to] = [this.selected, this.selected + by];
    if (to < 0 || to >= this.board.segments.length) return;
    this.change("", (b) => b.segments.splice(to, 0, ...b.segments.splice(from, 1)));
    this.selected = to;
  }

  /** Two halves of the selected piece; its fittings stay in the lower one. */
  split() {
    const at = this.selected;
    const piece = this.segment;
    if (!piece) return;
    const half = { riseM: (piece.riseM ?? 0) / 2, lengthM: (piece.lengthM ?? 0) / 2 };
    const lower = $state.snapshot(piece) as Segment;
    const label = this.unused(piece.label ?? "piece");
    this.change("", (b) =>
      b.segments.splice(at, 1, { ...lower, ...half }, { ...lower, ...half, id: uuid7(), label, fittings: [] }),
    );
  }

  /** Lengthens or shortens the selected piece by a straight bit. */
  stretch(byM: number) {
    const piece = this.segment;
    if (!piece) return;
    const riseM = Math.max(0, round((piece.riseM ?? 0) + byM));
    const lengthM = Math.max(0.05, round((piece.lengthM ?? 0) + byM));
    this.set("stretch", { riseM, lengthM });
  }

  /** Puts the end of a piece somewhere, seen from its start: up and aside, m. */
  drag(index: number, upM: number, asideM: number, square: boolean) {
    const riseM = Math.max(0, snap(upM));
    const aside = Math.abs(asideM) < 0.12 ? 0 : snap(Math.abs(asideM));
    const lengthM = round(square ? riseM + aside : Math.hypot(riseM, aside));
    this.selected = index;
    this.set("drag", { riseM, lengthM: Math.max(0.05, lengthM), toward: asideM < 0 ? "left" : "right" });
  }

  /** Ends a run of changes: the next one is a step of its own. */
  settle() {
    this.last = "";
  }

  /** Forgets what this browser kept. */
  forget() {
    localStorage.removeItem(this.key);
  }

  private show(board: Board) {
    this.board = board;
    this.last = "";
    this.selected = Math.min(this.selected, Math.max(0, board.segments.length - 1));
    this.keep();
  }

  private keep() {
    localStorage.setItem(this.key, JSON.stringify(this.board));
  }
}

const round = (m: number) => Math.round(m * 1000) / 1000;
const snap = (m: number) => Math.round(m * 20) / 20;

/** Whether a piece holds a square turn: it rises first and then runs level. */
export function turnsSquare(segment: Segment): boolean {
  return (segment.fittings ?? []).some((f) => f === "elbow-90" || f === "tee-turn");
}
