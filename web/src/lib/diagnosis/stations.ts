import type { StationView } from "../visits/views";
import Cause from "./Cause.svelte";
import Suspects from "./Suspects.svelte";

export const stations: StationView[] = [
  { code: "suspects", view: Suspects },
  { code: "cause", view: Cause },
];
