import type { StationView } from "../visits/views";
import Suspects from "./Suspects.svelte";

export const stations: StationView[] = [{ code: "suspects", view: Suspects }];
