<script lang="ts">
  import type { Schema } from "../api/client";
  import Signs from "../components/Signs.svelte";
  import { tables } from "../tables.svelte";
  import Decided from "../visits/Decided.svelte";
  import Reckoning from "../visits/Reckoning.svelte";
  import type { Step, VisitState } from "../visits/visit.svelte";

  let { visit, step }: { visit: VisitState; step: Step } = $props();

  type Check = Schema["BypassCheck"];
  const station = $derived(visit.station<Check, Schema["BypassCheckAnswer"]>(step.code, "bypass")!);
  const check = $derived(station.entry);
  const answer = $derived(station.answer);
  const { errors } = $derived(station);
  const set = (change: Partial<Check>) => station.set(change);
  $effect(() => station.reckon(undefined, true));
</script>

<section aria-labelledby="bypass">
  <h3 id="bypass" class="sr-only">Bypass</h3>
  <Signs
    label="What is seen on the bypass"
    none="Travels, locks, sits"
    words={tables.words("bypassSign")}
    seen={check.signs}
    errors={errors("signs")}
    disabled={!visit.writable}
    onchange={(seen) => set({ signs: seen as Check["signs"] })}
  />
  <Reckoning reckoner={station.reckoner} assumed={[]}>
    {#snippet more()}<Decided {visit} {step} parts={answer?.parts ?? []} />{/snippet}
  </Reckoning>
</section>
