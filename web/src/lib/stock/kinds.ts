import { tables } from "../tables.svelte";

/** What is cut to length, and never joined. */
export const isCut = (kind: string) => kind === "rope" || kind === "tape";

/** What comes in sizes. */
export const isSized = (kind: string) => isCut(kind) || kind === "duct";

/** How much of a kind, in words. */
export function amountOf(kind: string, amount: number): string {
  if (isCut(kind)) return tables.show(amount, "length");
  const unit = kind === "cement" ? "tube" : kind === "castable" ? "bag" : "piece";
  return `${Number(amount.toFixed(2))} ${unit}${amount === 1 ? "" : "s"}`;
}

/** What the amount of a kind is called where it is typed. */
export const amountLabel = (kind: string) =>
  isCut(kind) ? "Length" : kind === "cement" ? "Tubes" : kind === "castable" ? "Bags" : "Pieces";
