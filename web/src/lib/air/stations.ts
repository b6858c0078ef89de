import type { StationView } from "../visits/views";
import AirControls from "./AirControls.svelte";
import Dampers from "./Dampers.svelte";
import OutsideAir from "./OutsideAir.svelte";

export const stations: StationView[] = [
  { code: "air-controls", view: AirControls },
  { code: "outside-air", view: OutsideAir },
  { code: "dampers", view: Dampers },
];
