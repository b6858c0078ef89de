import type { StationView } from "../visits/views";
import Agree from "./Agree.svelte";

export const stations: StationView[] = [{ code: "agreement", view: Agree }];
