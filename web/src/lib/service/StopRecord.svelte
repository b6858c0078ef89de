<script lang="ts">
  import type { Schema } from "../api/client";
  import Mark from "../components/Mark.svelte";
  import { day } from "../dates";

  let { notice }: { notice: Schema["StopNotice"] } = $props();
  const stop = $derived(notice.stop);
</script>

<div class="border-base-300 border-b py-2">
  <p><Mark condition={stop.clearedAt ? "sound" : "unsafe"} /> {notice.sentence} {stop.why}</p>
  <p class="text-quiet text-sm">
    {stop.opensAgain ? "Set again" : "Set"} by {stop.setBy}, {day(notice.setOn)}, in
    <a class="link" href="/visits/{stop.visitId}">that visit</a>.
  </p>
  {#if stop.clearedAt}
    <p class="text-sm">
      Cleared by {stop.clearedBy}, {day(notice.clearedOn!)}: {stop.clearedWhat} Re-test: {stop.clearedRetest}
    </p>
  {/if}
</div>
