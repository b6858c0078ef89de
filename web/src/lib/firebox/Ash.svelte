<script lang="ts">
  import type { Schema } from "../api/client";
  import Choices from "../components/Choices.svelte";
  import NumberField from "../components/NumberField.svelte";
  import Tick from "../components/Tick.svelte";
  import { tables } from "../tables.svelte";
  import { ofThousandths, thousandths } from "../thousandths";
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
      value={ofThousandths(check.depthMm)}
      errors={errors("depthMm")}
      disabled={!visit.writable}
      onchange={(m) => set({ depthMm: thousandths(m) })}
    />
    <NumberField
      id="ash-panL"
      label="The pan holds"
      quantity="small-volume"
      value={ofThousandths(check.panL)}
      last={ofThousandths(answer?.panL)}
      lastWord="taken as"
      lastText="not known"
      errors={errors("panL")}
      disabled={!visit.writable}
      onchange={(m3) => set({ panL: thousandths(m3) })}
    />
  </div>
  <div class="mt-2">
    <Tick
      label="The pan is full to the grate"
      checked={check.touchesGrate ?? false}
      disabled={!visit.writable}
      onchange={(touchesGrate) => set({ touchesGrate })}
    />
  </div>
  <Reckoning reckoner={station.reckoner} assumed={answer?.assumed ?? []} />
</section>
