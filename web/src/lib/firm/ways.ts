import type { Schema } from "../api/client";

/** An ordinary firm's ways, until it says otherwise. */
export const ordinary = (): Schema["FirmWays"] => ({
  currency: "€",
  units: "metric",
  paper: "a4",
  workDays: ["monday", "tuesday", "wednesday", "thursday", "friday"],
  from: "08:00:00",
  to: "17:00:00",
  home: null,
});
