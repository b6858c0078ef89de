import type { StationView } from "../visits/views";
import Hearth from "./Hearth.svelte";
import RoomPlan from "./RoomPlan.svelte";
import Surfaces from "./Surfaces.svelte";

export const stations: StationView[] = [
  { code: "room-plan", view: RoomPlan },
  { code: "hearth", view: Hearth },
  { code: "surfaces", view: Surfaces },
];
