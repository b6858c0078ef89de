import type { StationView } from "../visits/views";
import Bypass from "./Bypass.svelte";
import CombustorLook from "./CombustorLook.svelte";
import LightOff from "./LightOff.svelte";
import Thermostat from "./Thermostat.svelte";

export const stations: StationView[] = [
  { code: "combustor", view: CombustorLook },
  { code: "bypass", view: Bypass },
  { code: "thermostat", view: Thermostat },
  { code: "light-off", view: LightOff },
];
