import type { StationView } from "../visits/views";
import AirTubes from "./AirTubes.svelte";
import Ash from "./Ash.svelte";
import Baffle from "./Baffle.svelte";
import LiningBricks from "./LiningBricks.svelte";
import StripDown from "./StripDown.svelte";

export const stations: StationView[] = [
  { code: "strip-down", view: StripDown },
  { code: "lining", view: LiningBricks },
  { code: "baffle", view: Baffle },
  { code: "air-tubes", view: AirTubes },
  { code: "ash", view: Ash },
];
