import type { StationView } from "../visits/views";
import ClosedAir from "./ClosedAir.svelte";
import DoorLook from "./DoorLook.svelte";
import Seals from "./Seals.svelte";
import StripTest from "./StripTest.svelte";

export const stations: StationView[] = [
  { code: "door-look", view: DoorLook },
  { code: "seals", view: Seals },
  { code: "door-strips", view: StripTest },
  { code: "ash-door-strips", view: StripTest },
  { code: "lid-strips", view: StripTest },
  { code: "closed-air", view: ClosedAir },
];
