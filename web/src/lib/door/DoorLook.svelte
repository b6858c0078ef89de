<script lang="ts">
  import type { Schema } from "../api/client";
  import Choices from "../components/Choices.svelte";
  import Signs from "../components/Signs.svelte";
  import { tables } from "../tables.svelte";
  import Decided from "../visits/Decided.svelte";
  import Reckoning from "../visits/Reckoning.svelte";
  import type { Step, VisitState } from "../visits/visit.svelte";

  let { visit, step }: { visit: VisitState; step: Step } = $props();

  type Look = Schema["DoorLook"];
  const station = $derived(visit.station<Look, Schema["DoorLookAnswer"]>(step.code, "door-look")!);
  const look = $derived(station.entry);
  const { errors } = $derived(station);
  const set = (change: Partial<Look>) => station.set(change);
  $effect(() => station.reckon(undefined, true));

  const hasGlass = $derived(step.marks.some((m) => m.code === "glass"));
</script>

<section aria-labelledby="door-look">
  <h3 id="door-look" class="sr-only">Look at the door</h3>
  <div class="grid grid-cols-[6rem_1fr] items-start gap-x-3 gap-y-4 text-sm max-sm:grid-cols-1">
    <span class="text-quiet sm:pt-3">Rope</span>
    <div class="space-y-2">
      <Choices
        label="State of the rope"
        options={tables.words("ropeState")}
        value={look.rope ?? null}
        disabled={!visit.writable}
        onchange={(rope) => set({ rope: rope as Look["rope"] })}
      />
      <Signs
        label="What else is on the rope"
        none="Nothing else"
        words={tables.words("ropeSign")}
        seen={look.ropeSigns}
        errors={errors("ropeSigns")}
        disabled={!visit.writable}
        onchange={(seen) => set({ ropeSigns: seen as Look["ropeSigns"] })}
      />
    </div>
    <span class="text-quiet sm:pt-3">Latch</span>
    <div>
      <Choices
        label="Travel of the latch"
        options={tables.words("latchTravel")}
        value={look.latch ?? null}
        disabled={!visit.writable}
        onchange={(latch) => set({ latch: latch as Look["latch"] })}
      />
    </div>
    <span class="text-quiet sm:pt-3">Hinges</span>
    <div>
      <Choices
        label="Play of the hinges"
        options={tables.words("hingePlay")}
        value={look.hinge ?? null}
        disabled={!visit.writable}
        onchange={(hinge) => set({ hinge: hinge as Look["hinge"] })}
      />
    </div>
    {#if hasGlass}
      <span class="text-quiet sm:pt-3">Glass</span>
      <div>
        <Signs
          label="What is on the glass"
          none="Whole, sits firm"
          words={tables.words("glassSign")}
          seen={look.glass}
          errors={errors("glass")}
          disabled={!visit.writable}
          onchange={(seen) => set({ glass: seen as Look["glass"] })}
        />
      </div>
    {/if}
  </div>
  <Reckoning reckoner={station.reckoner} assumed={[]}>
    {#snippet more()}<Decided {visit} {step} parts={station.answer?.parts ?? []} />{/snippet}
  </Reckoning>
</section>
