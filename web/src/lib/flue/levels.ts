import type { Schema } from "../api/client";
import { tables } from "../tables.svelte";

export type Level = Schema["HotReading"]["level"];

/** The three fires a draft is reckoned or read at. */
export const levels = () => tables.words("firingLevel") as { code: Level; name: string }[];
