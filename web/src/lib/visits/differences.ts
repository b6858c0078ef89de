import { tables, type Quantity } from "../tables.svelte";

export interface Difference {
  path: string;
  name: string;
  mine: string;
  theirs: string;
}

// What an entry's field is by its name: the unit stands in it.
const units: [RegExp, Quantity, number][] = [
  [/draftPa$|Pa$/, "draft", 1],
  [/C$/, "temperature", 1],
  [/KgH$/, "burn-rate", 1],
  [/(mm|Mm)$/, "thickness", 0.001],
  [/(L)$/, "small-volume", 0.001],
  [/M3S$/, "air-flow", 1],
  [/M$/, "length", 1],
  [/Share$|moistureWet$|MoistureWet$/, "share", 1],
  [/Ppm$/, "concentration", 1],
];

/**
 * Every field in which two entries differ, in the shown units.
 * @param names what ids in the entries stand for
 */
export function differences(mine: object, theirs: object, names: Record<string, string> = {}): Difference[] {
  const [a, b] = [flat(mine), flat(theirs)];
  return [...new Set([...a.keys(), ...b.keys()])]
    .filter((path) => a.get(path) !== b.get(path) && !/(^|\.)(version|saveId|savedAt|savedBy|visitId|step)$/.test(path))
    .map((path) => ({
      path,
      name: nameOf(path, names),
      mine: shown(path, a.get(path)),
      theirs: shown(path, b.get(path)),
    }));
}

function flat(value: unknown, path = "", into = new Map<string, unknown>()): Map<string, unknown> {
  if (Array.isArray(value)) {
    // Rows that have a word of their own are compared by it, not by their place.
    value.forEach((item, i) => {
      const key =
        (item as { level?: string; position?: string; kind?: string } | null)?.level ??
        (item as { position?: string } | null)?.position ??
        String(i + 1);
      flat(item, path ? `${path}.${key}` : key, into);
    });
  } else if (value !== null && typeof value === "object") {
    for (const [key, inner] of Object.entries(value)) flat(inner, path ? `${path}.${key}` : key, into);
  } else if (value !== null && value !== undefined && value !== "") {
    into.set(path, value);
  }
  return into;
}

function shown(path: string, value: unknown): string {
  if (value === undefined) return "–";
  if (typeof value !== "number") return value === true ? "yes" : value === false ? "no" : String(value);
  const unit = units.find(([pattern]) => pattern.test(path));
  return unit ? tables.show(value * unit[2], unit[1]) : String(Math.round(value * 1000) / 1000);
}

function nameOf(path: string, names: Record<string, string>): string {
  const words = path
    .split(".")
    .filter((part) => part !== "readings" && part !== "found" && part !== "controls")
    .map(
      (part) =>
        tables.all?.fields[part]?.name ??
        names[part] ??
        part
          .replace(/(Pa|C|KgH|Mm|M3S|M|L|Ppm)$/, "")
          .replace(/([A-Z])/g, " $1")
          .toLowerCase(),
    );
  return words.join(", ");
}
