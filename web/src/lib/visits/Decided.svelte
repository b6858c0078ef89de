<script lang="ts">
  import type { Schema } from "../api/client";
  import Mark from "../components/Mark.svelte";
  import { tables } from "../tables.svelte";
  import type { Step, VisitState } from "./visit.svelte";

  let { visit, step, parts }: { visit: VisitState; step: Step; parts: Schema["PartDecided"][] } = $props();

  // What is unsafe stops the stove by itself: its stop needs no second one.
  const open = $derived(
    parts.filter((p) => p.condition !== "unsafe" && visit.conditionIn(step.code, p.part) !== p.condition),
  );
</script>

{#if parts.length}
  <ul class="mt-2 flex flex-wrap gap-x-5 gap-y-1" aria-label="Words decided">
    {#each parts as part (part.part)}
      <li>
        <span class="font-semibold">{part.name}</span>
        <Mark condition={part.condition} />
        {tables.conditionOf(part.part, part.condition)}
      </li>
    {/each}
  </ul>
  {#if open.length && visit.writable}
    <button
      type="button"
      class="btn btn-sm mt-2 min-h-11"
      onclick={() => open.forEach((p) => visit.mark(step.code, p.part, p.condition))}
      >Mark {open.map((p) => p.name).join(", ")} so</button
    >
  {/if}
{/if}
