import type { StationView } from "../visits/views";
import ColdChecks from "./ColdChecks.svelte";
import HotDraft from "./HotDraft.svelte";
import TopCheck from "./TopCheck.svelte";

export const stations: StationView[] = [
  { code: "cold-flue", view: ColdChecks },
  { code: "top", view: TopCheck },
  { code: "hot-draft", view: HotDraft },
];
