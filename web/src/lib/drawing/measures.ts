import { api, refusals, reply, type Schema } from "../api/client";
import { settings } from "../settings.svelte";

/** The two great drawings. */
export const drawings = [
  { code: "house", name: "House" },
  { code: "stove", name: "Stove" },
] as const;
/** What is drawn beside them while a hot test runs. */
export const runDrawing = { code: "run", name: "The run" } as const;
export type Drawn = (typeof drawings)[number]["code"] | typeof runDrawing.code;

/** Keeps a measure of a stove's body; the section as it is then, or what was refused. */
export async function measureStove(
  id: string,
  field: string,
  m: number | null,
): Promise<{ section: Schema["StoveSection"] | null; refused: string[] }> {
  const params = { path: { id, field }, query: { units: settings.system } };
  const answer = await reply(api.PUT("/api/stoves/{id}/measures/{field}", { params, body: { m } }));
  return { section: answer.kind === "ok" ? answer.data : null, refused: refusals(answer) };
}
