import { api, refusals, reply, type Reply, type Schema } from "../api/client";

/** Who goes when, and for how long. */
export interface Plan {
  technicianId: string;
  day: string;
  time: string;
  minutes: number;
  /** Who goes with them; left out where a plan cannot say it yet. */
  helpers?: string[];
}

/** What stands against a plan; asked back once where it is only unusual. */
export interface Against {
  sentences: string[];
  ask: boolean;
}

/** What a reply has to say against a plan; null where it is planned. */
export function against(answer: Reply<unknown>): Against | null {
  if (answer.kind === "ok") return null;
  const ask = answer.kind === "problem" && answer.problem.ask === true;
  return { sentences: refusals(answer), ask };
}

/** A plan as it is sent. */
export const sent = (plan: Plan, despite: boolean) => ({ ...plan, time: `${plan.time}:00`, despite });

/** The plan of a visit as it stands. */
export const planOf = (visit: Schema["WeekVisit"]): Plan => ({
  technicianId: visit.stop.technicianId,
  day: visit.day,
  time: visit.from.slice(0, 5),
  minutes: minuteOf(visit.to) - minuteOf(visit.from),
  helpers: visit.stop.helpers,
});

/** Moves a visit; what stands against it, or null. */
export async function move(visit: Schema["WeekVisit"], plan: Plan, despite: boolean): Promise<Against | null> {
  const body = { baseVersion: visit.stop.planVersion, ...sent(plan, despite) };
  const path = { id: visit.stop.visitId };
  return against(await reply(api.PUT("/api/visits/{id}/plan", { params: { path }, body })));
}

/** The plan at the first free time for a stove, from its day on, of whoever goes or of anybody; and what stands against that. */
export async function nextFree(
  plan: Plan,
  stoveId: string,
  anybody = false,
): Promise<{ plan: Plan; refused: Against | null }> {
  const who = anybody ? {} : { technicianId: plan.technicianId };
  const query = { ...who, from: plan.day, minutes: plan.minutes, stoveId };
  const answer = await reply(api.GET("/api/season/slot", { params: { query } }));
  if (answer.kind !== "ok") return { plan, refused: against(answer) };
  const { day, time, technicianId } = answer.data;
  return { plan: { ...plan, day, time: time.slice(0, 5), technicianId }, refused: null };
}

/** Minutes since midnight of 14:10 or 14:10:00. */
export function minuteOf(time: string): number {
  const [hour, minute] = time.split(":").map(Number);
  return hour! * 60 + minute!;
}

/** 14:10 of minutes since midnight. */
export const timeOf = (minute: number): string =>
  `${String(Math.floor(minute / 60)).padStart(2, "0")}:${String(Math.round(minute % 60)).padStart(2, "0")}`;
