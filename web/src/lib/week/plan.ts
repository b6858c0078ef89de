import { refusals, type Reply } from "../api/client";

/** What a reply has to say against a plan; null where it is planned. */
export function against(answer: Reply<unknown>): { sentences: string[]; ask: boolean } | null {
  if (answer.kind === "ok") return null;
  const ask = answer.kind === "problem" && answer.problem.ask === true;
  return { sentences: refusals(answer), ask };
}

/** Minutes since midnight of 14:10 or 14:10:00. */
export function minuteOf(time: string): number {
  const [hour, minute] = time.split(":").map(Number);
  return hour! * 60 + minute!;
}

/** 14:10 of minutes since midnight. */
export const timeOf = (minute: number): string =>
  `${String(Math.floor(minute / 60)).padStart(2, "0")}:${String(Math.round(minute % 60)).padStart(2, "0")}`;
