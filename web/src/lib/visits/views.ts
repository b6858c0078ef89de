import type { Component } from "svelte";
import type { Step, VisitState } from "./visit.svelte";

/** What a part brings to the screen: a view for each of its stations. */
export interface StationView {
  code: string;
  /** `again`: it is shown once more, in a later step than its own. */
  view: Component<{ visit: VisitState; step: Step; code: string; again?: boolean }>;
}

const parts = import.meta.glob<{ stations: StationView[] }>("../*/stations.ts", { eager: true });

/** Every station's view, by its word; the build fails when the server lists one that is not here. */
export const views = new Map(Object.values(parts).flatMap((part) => part.stations.map((s) => [s.code, s.view])));
