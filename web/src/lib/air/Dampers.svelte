<script lang="ts">
  import type { Schema } from "../api/client";
  import NumberField from "../components/NumberField.svelte";
  import Signs from "../components/Signs.svelte";
  import Tick from "../components/Tick.svelte";
  import { tables } from "../tables.svelte";
  import Decided from "../visits/Decided.svelte";
  import Reckoning from "../visits/Reckoning.svelte";
  import type { Step, VisitState } from "../visits/visit.svelte";

  let { visit, step }: { visit: VisitState; step: Step } = $props();

  type Check = Schema["DamperCheck"];
  const station = $derived(visit.station<Check, Schema["DamperCheckAnswer"]>(step.code, "dampers")!);
  const check = $derived(station.entry);
  const answer = $derived(station.answer);
  const { errors } = $derived(station);
  const set = (change: Partial<Check>) => station.set(change);
  $effect(() => station.reckon(undefined, true));
  const bends = $derived(answer?.bends ?? null);
</script>

<section aria-labelledby="dampers">
  <h3 id="dampers" class="sr-only">Dampers and bends</h3>
  <div class="flex flex-wrap gap-x-6">
    <Tick
      label="A plate sits in the pipe"
      checked={check.plate ?? answer?.plate ?? false}
      disabled={!visit.writable}
      onchange={(plate) => set({ plate })}
    />
    <Tick
      label="The maker asks for one"
      checked={check.makerAsks ?? false}
      disabled={!visit.writable}
      onchange={(makerAsks) => set({ makerAsks })}
    />
    {#if check.regulatorPa != null}
      <Tick
        label="The regulator does not swing"
        checked={check.regulatorStiff ?? false}
        disabled={!visit.writable}
        onchange={(regulatorStiff) => set({ regulatorStiff })}
      />
    {/if}
    {#if answer?.reckoned.oven}
      <Tick
        label="The oven’s flap is stiff"
        checked={check.flapStiff ?? false}
        disabled={!visit.writable}
        onchange={(flapStiff) => set({ flapStiff })}
      />
    {/if}
  </div>
  <div class="mt-3 grid grid-cols-2 gap-x-4 gap-y-4 max-sm:grid-cols-1">
    <NumberField
      id="damper-highFireDraftPa"
      label="Draft at high fire"
      quantity="draft"
      instrument="draftPa"
      value={check.highFireDraftPa ?? null}
      last={answer?.highFireDraftPa ?? null}
      lastWord="last read"
      lastText="not read yet"
      errors={errors("highFireDraftPa")}
      disabled={!visit.writable}
      onchange={(highFireDraftPa) => set({ highFireDraftPa })}
    />
    <NumberField
      id="damper-regulatorPa"
      label="Barometric regulator, set to"
      quantity="draft"
      value={check.regulatorPa ?? null}
      errors={errors("regulatorPa")}
      disabled={!visit.writable}
      onchange={(regulatorPa) => set({ regulatorPa })}
    />
    {#if bends && bends.levelM > 0.05}
      <NumberField
        id="damper-levelRiseMmPerM"
        label="Rise of the level run, mm per m"
        quantity="count"
        value={check.levelRiseMmPerM ?? null}
        errors={errors("levelRiseMmPerM")}
        disabled={!visit.writable}
        onchange={(levelRiseMmPerM) => set({ levelRiseMmPerM })}
      />
    {/if}
    {#if answer?.reckoned.oven}
      <NumberField
        id="damper-elbows90"
        label="Elbows behind the oven"
        quantity="count"
        value={check.elbows90 ?? null}
        last={bends?.bends90 ?? null}
        lastWord="by the drawing"
        errors={errors("elbows90")}
        disabled={!visit.writable}
        onchange={(n) => set({ elbows90: n === null ? null : Math.round(n) })}
      />
    {/if}
  </div>
  {#if bends}
    <dl class="mt-4 grid grid-cols-4 gap-3 max-sm:grid-cols-2">
      {#each [["90° bends", String(bends.bends90)], ["45° bends", String(bends.bends45)], ["goes aside", tables.show(bends.levelM, "length")], ["rises", tables.show(bends.riseM, "length")]] as [name, value] (name)}
        <div>
          <dt class="text-quiet text-sm">{name}</dt>
          <dd class="computed text-xl">{value}</dd>
        </div>
      {/each}
    </dl>
  {/if}
  <h3 class="mt-7 mb-2">Along the connector</h3>
  <Signs
    label="What is seen along the connector"
    none="Screwed, crimped, sealed as it should be"
    words={tables.words("connectorSign")}
    seen={check.signs}
    errors={errors("signs")}
    disabled={!visit.writable}
    onchange={(seen) => set({ signs: seen as Check["signs"] })}
  />
  <Reckoning reckoner={station.reckoner} assumed={answer?.assumed ?? []}>
    {#snippet more()}<Decided {visit} {step} parts={answer?.parts ?? []} />{/snippet}
  </Reckoning>
</section>
