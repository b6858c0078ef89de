<script lang="ts">
  import type { Schema } from "../api/client";
  import Reckoning from "../visits/Reckoning.svelte";
  import type { Step, VisitState } from "../visits/visit.svelte";
  import SuspectsBoard from "./SuspectsBoard.svelte";

  let { visit, step }: { visit: VisitState; step: Step } = $props();
  const station = $derived(visit.station<Schema["Suspects"], Schema["SuspectsAnswer"]>(step.code, "suspects")!);
  $effect(() => station.reckon(undefined, true));
</script>

<section aria-labelledby="suspects" aria-busy={!station.answer && !station.reckoner.away}>
  <h3 id="suspects" class="sr-only">Suspects</h3>
  {#if station.answer}
    <SuspectsBoard
      answer={station.answer}
      told={station.entry.told ?? {}}
      passed={station.entry.passed ?? []}
      disabled={!visit.writable}
      onchange={(entry) => station.set(entry)}
    />
  {/if}
  {#each station.refusals as sentence, n (n)}<p class="text-error text-sm">{sentence}</p>{/each}
  <Reckoning reckoner={station.reckoner} assumed={[]} />
</section>
