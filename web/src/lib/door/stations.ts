import type { StationView } from "../visits/views";
import ClosedAir from "./ClosedAir.svelte";
import StripTest from "./StripTest.svelte";

export const stations: StationView[] = [
  { code: "door-strips", view: StripTest },
  { code: "closed-air", view: ClosedAir },
];
