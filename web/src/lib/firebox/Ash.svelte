<script lang="ts">
  import type { Schema } from "../api/client";
  import Choices from "../components/Choices.svelte";
  import NumberField from "../components/NumberField.svelte";
  import { tables } from "../tables.svelte";
  import { thousandths } from "../thousandths";
  import Reckoning from "../visits/Reckoning.svelte";
  import type { Step, VisitState } from "../visits/visit.svelte";

  let { visit, step }: { visit: VisitState; step: Step } = $props();

  type Check = Schema["AshCheck"];
  const station = $derived(visit.station<Check, Schema["AshCheckAnswer"]>(step.code, "ash")!);
  const check = $derived(station.entry);
  const answer = $derived(station.answer);
  const { errors } = $derived(station);
  const set = (change: Partial<Check>) => station.set(change);
  $effect(() => station.reckon(undefined, true));
</script>

<section aria-labelledby="ash">
  <h3 id="ash" class="sr-only">Ash</h3>
  <Choices
    label="What is burnt"
    options={tables.words("ashFuel")}
    value={check.fuel ?? answer?.fuel ?? null}
    disabled={!visit.writable}
    onchange={(fuel) => set({ fuel: fuel as Check["fuel"] })}
  />
  <div class="mt-3 grid grid-cols-2 gap-x-4 gap-y-4 max-sm:grid-cols-1">
    <NumberField
      id="ash-depthMm"
      label="Ash on the floor"
      quantity="bore"
      value={check.depthMm == null ? null : check.depthMm / 1000}
      errors={errors("depthMm")}
      disabled={!visit.writable}
      onchange={(m) => set({ depthMm: thousandths(m) })}
    />
    <NumberField
      id="ash-panL"
      label="The pan holds"
      quantity="small-volume"
      value={check.panL == null ? null : check.panL / 1000}
      last={answer?.panL == null ? null : answer.panL / 1000}
      lastWord="taken as"
      lastText="not known"
      errors={errors("panL")}
      disabled={!visit.writable}
      onchange={(m3) => set({ panL: thousandths(m3) })}
    />
  </div>
  <label class="mt-2 flex min-h-11 items-center gap-2"
    ><input
      type="checkbox"
      class="checkbox"
      checked={check.touchesGrate ?? false}
      disabled={!visit.writable}
      onchange={(e) => set({ touchesGrate: e.currentTarget.checked })}
    /> The pan is full to the grate</label
  >
  <Reckoning reckoner={station.reckoner} assumed={answer?.assumed ?? []} />
</section>
