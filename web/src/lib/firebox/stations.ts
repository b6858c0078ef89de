import type { StationView } from "../visits/views";
import AirTubes from "./AirTubes.svelte";
import Ash from "./Ash.svelte";
import Baffle from "./Baffle.svelte";

export const stations: StationView[] = [
  { code: "baffle", view: Baffle },
  { code: "air-tubes", view: AirTubes },
  { code: "ash", view: Ash },
];
