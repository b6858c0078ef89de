import type { StationView } from "../visits/views";
import HotRun from "./HotRun.svelte";

export const stations: StationView[] = [{ code: "hot-run", view: HotRun }];
