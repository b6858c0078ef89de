<script lang="ts">
  import type { Schema } from "../api/client";
  import { day } from "../dates";
  import ClearStop from "../service/ClearStop.svelte";
  import Mark from "./Mark.svelte";

  interface Props {
    stops: Schema["StopNotice"][];
    /** Stops by numbers that were typed and not yet saved. */
    atOnce?: string[];
    /** Where they may be cleared: called when one was. */
    onclear?: () => void;
  }
  let { stops, atOnce = [], onclear }: Props = $props();
  const open = $derived(stops.filter((s) => !s.stop.clearedAt));
</script>

{#if open.length || atOnce.length}
  <div role="alert" class="border-error bg-base-100 text-error border-l-8 px-4 py-2 print:border">
    <strong class="font-display text-lg">No fire until cleared</strong>
    {#each open as notice (notice.stop.id)}
      <p class="text-base-content">
        <Mark condition="unsafe" />
        {notice.sentence}
        {notice.stop.why}
        <span class="text-quiet text-sm"
          >{notice.stop.opensAgain ? "Set again" : "Set"} by {notice.stop.setBy}, {day(notice.setOn)}.</span
        >
      </p>
      {#if onclear}<ClearStop {notice} {onclear} />{/if}
    {/each}
    {#each atOnce as sentence, n (n)}
      <p class="text-base-content">
        <Mark condition="unsafe" />
        {sentence} <span class="text-quiet text-sm">By what was just typed; not saved yet.</span>
      </p>
    {/each}
  </div>
{/if}
