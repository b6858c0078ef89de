<script lang="ts">
  import type { Schema } from "../api/client";
  import TextField from "../components/TextField.svelte";
  import Tick from "../components/Tick.svelte";
  import Reckoning from "../visits/Reckoning.svelte";
  import type { Step, VisitState } from "../visits/visit.svelte";
  import Signature from "./Signature.svelte";

  let { visit, step }: { visit: VisitState; step: Step } = $props();

  type Agreement = Schema["Agreement"];
  const station = $derived(visit.station<Agreement, Schema["AgreementAnswer"]>(step.code, "agreement")!);
  const entry = $derived(station.entry);
  const nobody = $derived(entry.nobodyAtHome === true);
  // What was marked in the other steps is what is said here.
  const marked = $derived(visit.doc.findings.map((f) => `${f.part} ${f.version}`).join());
  $effect(() => {
    void marked;
    station.reckon();
  });
</script>

<h3 class="mb-2">The household signs that it was told</h3>
<Tick
  label="Nobody at home"
  checked={nobody}
  disabled={!visit.writable}
  onchange={(nobodyAtHome) => station.set({ nobodyAtHome, strokes: null })}
/>
{#if !nobody}
  <div class="mt-4">
    <TextField
      id="agreed-name"
      label="Name"
      value={entry.name ?? ""}
      most={200}
      errors={station.errors("name")}
      disabled={!visit.writable}
      onchange={(name) => station.set({ name })}
    />
  </div>
  <div class="mt-4">
    <Signature
      strokes={entry.strokes ?? []}
      disabled={!visit.writable}
      onchange={(strokes) => station.set({ strokes })}
    />
    {#each station.errors("strokes") as sentence, n (n)}<p class="text-error text-sm">{sentence}</p>{/each}
  </div>
{/if}
<Reckoning reckoner={station.reckoner} assumed={[]} />
