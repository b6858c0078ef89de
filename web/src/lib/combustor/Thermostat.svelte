<script lang="ts">
  import type { Schema } from "../api/client";
  import NumberField from "../components/NumberField.svelte";
  import Signs from "../components/Signs.svelte";
  import TextField from "../components/TextField.svelte";
  import { tables } from "../tables.svelte";
  import Decided from "../visits/Decided.svelte";
  import Reckoning from "../visits/Reckoning.svelte";
  import type { Step, VisitState } from "../visits/visit.svelte";

  let { visit, step }: { visit: VisitState; step: Step } = $props();

  type Check = Schema["ThermostatCheck"];
  const station = $derived(visit.station<Check, Schema["ThermostatCheckAnswer"]>(step.code, "thermostat")!);
  const check = $derived(station.entry);
  const answer = $derived(station.answer);
  const { errors } = $derived(station);
  const set = (change: Partial<Check>) => station.set(change);
  $effect(() => station.reckon(undefined, true));
</script>

<section aria-labelledby="thermostat">
  <h3 id="thermostat" class="sr-only">Thermostat</h3>
  <div class="grid grid-cols-2 gap-x-4 gap-y-4 max-sm:grid-cols-1">
    {#each [{ field: "closesS", label: "Seconds until it closed, warm" }, { field: "opensS", label: "Seconds until it opened, cooling" }] as const as time (time.field)}
      <NumberField
        id="thermostat-{time.field}"
        label={time.label}
        quantity="count"
        value={check[time.field] ?? null}
        last={(station.earlier as Check | null)?.[time.field] ?? null}
        errors={errors(time.field)}
        disabled={!visit.writable}
        onchange={(value) => set({ [time.field]: value })}
      />
    {/each}
  </div>
  <div class="mt-3 space-y-3">
    <Signs
      label="What is seen on the thermostat"
      none="Flap, knob and stop as they should be"
      words={tables.words("thermostatSign")}
      seen={check.signs}
      errors={errors("signs")}
      disabled={!visit.writable}
      onchange={(seen) => set({ signs: seen as Check["signs"] })}
    />
    <TextField
      id="thermostat-openedBy"
      label="Who opened a cover marked for trained service"
      value={check.openedBy ?? ""}
      most={80}
      errors={errors("openedBy")}
      disabled={!visit.writable}
      onchange={(openedBy) => set({ openedBy })}
    />
  </div>
  <Reckoning reckoner={station.reckoner} assumed={[]}>
    {#snippet more()}<Decided {visit} {step} parts={answer?.parts ?? []} />{/snippet}
  </Reckoning>
</section>
