import { clock } from "./clock";

const months = ["Jan", "Feb", "Mar", "Apr", "May", "Jun", "Jul", "Aug", "Sep", "Oct", "Nov", "Dec"];

/** A day (2025-10-05) as 5 Oct 2025. A day is never read as an instant: west of Greenwich it would be the day before. */
export function day(date: string): string {
  const [year, month, of] = date.slice(0, 10).split("-").map(Number);
  return `${of} ${months[month! - 1]} ${year}`;
}

const weekdays = ["Sun", "Mon", "Tue", "Wed", "Thu", "Fri", "Sat"];

/** A day of a week that one knows: Thu 3 Dec. */
export function weekday(date: string): string {
  const at = new Date(onScale(date));
  return `${weekdays[at.getUTCDay()]} ${at.getUTCDate()} ${months[at.getUTCMonth()]}`;
}

/** A day on a scale of time. */
export const onScale = (date: string): number => Date.parse(`${date.slice(0, 10)}T00:00:00Z`);

/** The month of a place on such a scale: Oct 25. */
export const monthOf = (at: Date): string => `${months[at.getUTCMonth()]} ${String(at.getUTCFullYear()).slice(2)}`;

let zone = "UTC";

/** Days of instants are the firm's. */
export function daysOf(timeZone: string): void {
  zone = timeZone || "UTC";
}

/** The day of an instant at the firm's place. */
export function dayOf(instant: string): string {
  const parts = new Intl.DateTimeFormat("en-CA", { timeZone: zone, year: "numeric", month: "2-digit", day: "2-digit" });
  return day(parts.format(new Date(instant)));
}

/** The time of day at the firm's place: 14:10. */
export const timeNow = (): string =>
  new Date(clock.now()).toLocaleTimeString("en-GB", { hour: "2-digit", minute: "2-digit", timeZone: zone });
