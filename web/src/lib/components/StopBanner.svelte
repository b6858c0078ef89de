<script lang="ts">
  import type { Schema } from "../api/client";
  import { day } from "../dates";
  import Mark from "./Mark.svelte";

  let { stops }: { stops: Schema["StopNotice"][] } = $props();
  const open = $derived(stops.filter((s) => !s.stop.clearedAt));
</script>

{#if open.length}
  <div role="alert" class="border-error bg-base-100 text-error border-l-8 px-4 py-2 print:border">
    <strong class="font-display text-lg">No fire until cleared</strong>
    {#each open as { stop, sentence } (stop.id)}
      <p class="text-base-content">
        <Mark condition="unsafe" />
        {sentence} <span class="text-quiet text-sm">Set by {stop.setBy}, {day(stop.setAt)}.</span>
      </p>
    {/each}
  </div>
{/if}
