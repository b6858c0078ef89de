import type { StationView } from "../visits/views";
import Nights from "./Nights.svelte";
import WoodFound from "./WoodFound.svelte";
import WoodPile from "./WoodPile.svelte";

export const stations: StationView[] = [
  { code: "wood", view: WoodFound },
  { code: "wood-pile", view: WoodPile },
  { code: "nights", view: Nights },
];
