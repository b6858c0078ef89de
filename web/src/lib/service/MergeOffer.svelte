<script lang="ts">
  import { day } from "../dates";
  import { tables } from "../tables.svelte";
  import type { Schema } from "../api/client";
  import type { Saver } from "./saver.svelte";
  import type { StepValue } from "./visit.svelte";

  let { saver }: { saver: Saver<StepValue, Schema["SavedStep"]> } = $props();
  const theirs = $derived(saver.stored!);
  const mine = $derived(saver.value);
  const take = (note: string, from: "mine" | "theirs") =>
    saver.resolve(
      from === "mine"
        ? { ...mine, note }
        : {
            status: theirs.status as StepValue["status"],
            reason: theirs.reason,
            note,
            hotTest: theirs.hotTest ?? null,
            coldChecks: theirs.coldChecks ?? null,
            sweep: theirs.sweep ?? null,
            wood: theirs.wood ?? null,
          },
    );
</script>

<div role="alert" class="border-primary bg-base-200 border-l-4 p-3">
  <strong>{theirs.savedBy} saved another version of this step in between ({day(theirs.savedAt)}).</strong>
  <div class="mt-1 grid gap-3 sm:grid-cols-2">
    <div>
      <h4 class="text-quiet text-sm">Yours: {mine.status}</h4>
      <p class="whitespace-pre-wrap">{mine.note || "no note"}</p>
      {#each mine.hotTest?.readings ?? [] as r (r.level)}<p class="measured">
          {r.level}: {r.draftPa == null ? "not read" : tables.show(r.draftPa, "draft")}
        </p>{/each}
    </div>
    <div>
      <h4 class="text-quiet text-sm">Theirs: {theirs.status}</h4>
      <p class="whitespace-pre-wrap">{theirs.note || "no note"}</p>
      {#each theirs.hotTest?.readings ?? [] as r (r.level)}<p class="measured">
          {r.level}: {r.draftPa == null ? "not read" : tables.show(r.draftPa, "draft")}
        </p>{/each}
    </div>
  </div>
  <div class="mt-2 flex flex-wrap gap-2">
    <button class="btn btn-sm" onclick={() => take(mine.note, "mine")}>Keep mine</button>
    <button class="btn btn-sm" onclick={() => take(theirs.note, "theirs")}>Take theirs</button>
    <button class="btn btn-sm" onclick={() => take([theirs.note, mine.note].filter(Boolean).join("\n"), "mine")}
      >Mine with both notes</button
    >
  </div>
</div>
