/** The three fires a draft is reckoned or read at. */
export const levels = [
  { code: "low", name: "Low fire" },
  { code: "normal", name: "Normal" },
  { code: "high", name: "High fire" },
] as const;

export type Level = (typeof levels)[number]["code"];
