import { scaleLinear } from "d3-scale";
import type { Schema } from "../api/client";

export type Point = Schema["LaidPoint"];
export type Layout = Schema["FlueLayout"];
export type Outline = Schema["HouseOutline"];

/** What part of the world a drawing shows, m; x from the house's left wall, y above the lowest floor. */
export interface Bounds {
  left: number;
  right: number;
  top: number;
  bottom: number;
}

/** Turns metres into the drawing's own units. */
export interface View {
  x: (m: number) => number;
  y: (m: number) => number;
  scale: number;
  width: number;
  height: number;
}

export const overhangM = 0.5;
const sideM = 4.5;

/** Everything that belongs in the picture: house, flue, and what stands near its outlet. A curve beside it may cover an overhang. */
export function bounds(outline: Outline, layout: Layout, withCurve: boolean, more: Point[] = []): Bounds {
  const outlet = end(layout.segments[layout.segments.length - 1]!.path);
  const near = outline.obstacles
    .map((o) => ({ left: o.acrossM - o.widthM / 2, right: o.acrossM + o.widthM / 2, top: o.topM }))
    .filter((o) => o.left - outlet.acrossM < sideM + 2 && outlet.acrossM - o.right < sideM + 2);
  const left = Math.min(
    -overhangM,
    outlet.acrossM - 0.4,
    ...more.map((p) => p.acrossM - 0.3),
    ...near.map((o) => Math.max(o.left, -sideM)),
  );
  const right = Math.max(
    outline.widthM + (withCurve ? 0.1 : overhangM),
    outlet.acrossM + 0.4,
    ...more.map((p) => p.acrossM + 0.3),
    ...near.map((o) => Math.min(o.right, outline.widthM + sideM)),
  );
  const asked = layout.top && layout.roofM != null ? layout.roofM + layout.top.requiredAbovePenetrationM : 0;
  return {
    left: left - 0.1,
    right: right + 0.1,
    top: Math.max(outline.ridgeM, outlet.heightM, asked) + 0.6,
    bottom: 0,
  };
}

/** Fits bounds into a box at most that high; margins in the drawing's units: a head for titles, the right for a curve. */
export function view(
  shown: Bounds,
  width: number,
  mostHeight: number,
  margin: { right: number; head: number; ground: number },
): View {
  const scale = Math.min(
    (width - margin.right - 12) / (shown.right - shown.left),
    (mostHeight - margin.ground - margin.head) / (shown.top - shown.bottom),
    90,
  );
  const height = scale * (shown.top - shown.bottom) + margin.ground + margin.head;
  return {
    x: scaleLinear([shown.left, shown.left + 1], [6, 6 + scale]),
    y: scaleLinear([shown.bottom, shown.bottom + 1], [height - margin.ground, height - margin.ground - scale]),
    scale,
    width,
    height,
  };
}

/** Where a pointer is, in the units of its drawing. */
export function pointIn(svg: SVGSVGElement, event: PointerEvent): DOMPoint {
  return new DOMPoint(event.clientX, event.clientY).matrixTransform(svg.getScreenCTM()!.inverse());
}

/** An SVG path through points. */
export function line(view: View, path: Point[]): string {
  return `M${path.map((p) => `${view.x(p.acrossM)} ${view.y(p.heightM)}`).join(" L")}`;
}

export function end(path: Point[]): Point {
  return path[path.length - 1]!;
}

/** The point half way along a path. */
export const middle = (path: Point[]) => part(path, 0.5);

/** The point a share of the way along a path. */
export function part(path: Point[], share: number): Point {
  const lengths = path.slice(1).map((p, i) => Math.hypot(p.acrossM - path[i]!.acrossM, p.heightM - path[i]!.heightM));
  let left = lengths.reduce((a, b) => a + b, 0) * share;
  for (const [i, length] of lengths.entries()) {
    const [a, b] = [path[i]!, path[i + 1]!];
    if (left <= length && length > 0) {
      return {
        acrossM: a.acrossM + ((b.acrossM - a.acrossM) * left) / length,
        heightM: a.heightM + ((b.heightM - a.heightM) * left) / length,
      };
    }
    left -= length;
  }
  return end(path);
}

/** The point a length along the whole flue. */
export function along(layout: Layout, lengthM: number): Point {
  let left = lengthM;
  for (const segment of layout.segments) {
    for (const [i, b] of segment.path.slice(1).entries()) {
      const a = segment.path[i]!;
      const length = Math.hypot(b.acrossM - a.acrossM, b.heightM - a.heightM);
      if (left <= length && length > 0) {
        return {
          acrossM: a.acrossM + ((b.acrossM - a.acrossM) * left) / length,
          heightM: a.heightM + ((b.heightM - a.heightM) * left) / length,
        };
      }
      left -= length;
    }
  }
  return end(layout.segments[layout.segments.length - 1]!.path);
}

export const masonry = (segment: Schema["LaidSegment"]) => segment.outerM - segment.boreM > 0.2;

/** The layer after another, as the key d turns them. */
export function after<T extends { code: string }>(layers: readonly T[], code: T["code"]): T["code"] {
  return layers[(layers.findIndex((l) => l.code === code) + 1) % layers.length]!.code;
}

/** Places in a column for names that would stand at these heights, from top to bottom: none over another, none outside. */
export function inColumn(wanted: number[], first: number, last: number): number[] {
  const ys = [...wanted];
  const apart = Math.min(26, (last - first) / Math.max(1, ys.length - 1));
  ys.forEach((y, i) => (ys[i] = Math.max(i ? ys[i - 1]! + apart : first, y)));
  for (let i = ys.length - 1; i >= 0; i--) ys[i] = Math.min(i < ys.length - 1 ? ys[i + 1]! - apart : last, ys[i]!);
  return ys;
}
