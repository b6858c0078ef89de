import type { StationView } from "../visits/views";
import WoodFound from "./WoodFound.svelte";

export const stations: StationView[] = [{ code: "wood", view: WoodFound }];
