import type { Schema } from "../api/client";

export interface Point {
  x: number;
  y: number;
}

/** A piece of the flue as drawn; lengths in metres, y upwards from the floor of the lowest storey. */
export interface DrawnSegment {
  label: string;
  construction: string;
  place: string;
  path: Point[];
  boreM: number;
  outerM: number;
  plate: boolean;
}

export interface Drawn {
  house: { widthM: number; eavesM: number; ridgeM: number; overhangM: number };
  storeys: { name: string; floorM: number; ceilingM: number }[];
  stove: { x: number; widthM: number; collarM: number };
  segments: DrawnSegment[];
  top: Point;
  cap: string;
  screen: boolean;
  bounds: { left: number; right: number; top: number };
}

// Wall thickness as drawn, m: steel sheet, insulation, masonry.
const walls: Record<string, number> = {
  "single-wall-steel": 0.01,
  "double-wall-air": 0.02,
  "insulated-25": 0.025,
  "insulated-50": 0.05,
  "clay-in-masonry": 0.12,
  "steel-liner-bare": 0.12,
  "steel-liner-insulated": 0.12,
  "brick-unlined": 0.12,
};

const overhangM = 0.5;

/** Lays a system out true to scale from its own data. */
export function draw(stove: Schema["Stove"], version: Schema["FlueVersion"]): Drawn {
  let floor = 0;
  const storeys = stove.storeyHeightsM.map((height, i) => {
    const storey = { name: stove.storeyNames[i] ?? "", floorM: floor, ceilingM: floor + height };
    floor += height;
    return storey;
  });
  const slope = Math.tan((stove.roofPitchDeg * Math.PI) / 180);
  const ridgeM = floor + (stove.houseWidthM / 2) * slope;

  let at: Point = { x: version.stoveXM, y: stove.collarHeightM };
  const segments = (version.flue.segments ?? []).map((segment): DrawnSegment => {
    const path = run(at, segment);
    at = path[path.length - 1]!;
    const boreM = segment.shape?.diameterM ?? segment.shape?.widthM ?? 0.15;
    return {
      label: segment.label ?? "",
      construction: segment.construction ?? "",
      place: segment.surroundings ?? "",
      path,
      boreM,
      outerM: boreM + 2 * (walls[segment.construction ?? ""] ?? 0.02),
      plate: fittingCodes(segment).some((code) => code.startsWith("butterfly")),
    };
  });
  return {
    house: { widthM: stove.houseWidthM, eavesM: floor, ridgeM, overhangM },
    storeys,
    stove: { x: version.stoveXM, widthM: stove.kind === "masonry-heater" ? 1.1 : 0.7, collarM: stove.collarHeightM },
    segments,
    top: at,
    cap: version.flue.cap ?? "open",
    screen: version.flue.screen ?? false,
    bounds: {
      left: -overhangM - 0.1,
      right: Math.max(stove.houseWidthM + overhangM, at.x + 0.3),
      top: Math.max(ridgeM, at.y) + 0.5,
    },
  };
}

// A square turn rises first and then runs level; anything else leans over its run.
function run(from: Point, segment: Schema["SegmentEntry"]): Point[] {
  const rise = segment.riseM ?? 0;
  const length = segment.lengthM ?? rise;
  const square = fittingCodes(segment).some((code) => code === "elbow-90" || code === "tee-turn");
  const aside = square ? length - rise : Math.sqrt(Math.max(0, length * length - rise * rise));
  if (aside < 0.01) return [from, { x: from.x, y: from.y + rise }];
  return square
    ? [from, { x: from.x, y: from.y + rise }, { x: from.x + aside, y: from.y + rise }]
    : [from, { x: from.x + aside, y: from.y + rise }];
}

function fittingCodes(segment: Schema["SegmentEntry"]): string[] {
  return (segment.fittings ?? []).map((f) => (typeof f === "string" ? f : ""));
}

/** The point half way along a path. */
export function middle(path: Point[]): Point {
  const lengths = path.slice(1).map((p, i) => Math.hypot(p.x - path[i]!.x, p.y - path[i]!.y));
  let left = lengths.reduce((a, b) => a + b, 0) / 2;
  for (const [i, length] of lengths.entries()) {
    const [a, b] = [path[i]!, path[i + 1]!];
    if (left <= length) return { x: a.x + ((b.x - a.x) * left) / length, y: a.y + ((b.y - a.y) * left) / length };
    left -= length;
  }
  return path[path.length - 1]!;
}
