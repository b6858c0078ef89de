import type { StationView } from "../visits/views";
import SweepDeposits from "./SweepDeposits.svelte";

export const stations: StationView[] = [{ code: "deposits", view: SweepDeposits }];
