<script lang="ts">
  import type { Schema } from "../api/client";
  import Choices from "../components/Choices.svelte";
  import NumberField from "../components/NumberField.svelte";
  import Signs from "../components/Signs.svelte";
  import { tables } from "../tables.svelte";
  import Decided from "../visits/Decided.svelte";
  import Reckoning from "../visits/Reckoning.svelte";
  import type { Step, VisitState } from "../visits/visit.svelte";

  let { visit, step }: { visit: VisitState; step: Step } = $props();

  type Check = Schema["TubesCheck"];
  const station = $derived(visit.station<Check, Schema["TubesCheckAnswer"]>(step.code, "air-tubes")!);
  const check = $derived(station.entry);
  const answer = $derived(station.answer);
  const { errors } = $derived(station);
  const set = (change: Partial<Check>) => station.set(change);
  $effect(() => station.reckon(undefined, true));

  const holes = $derived(answer?.holesEach ?? 20);
  const counts = $derived(check.blocked ?? []);
  const ways = [
    { field: "airWash", label: "Air wash over the glass", words: "airWay" },
    { field: "floorAir", label: "Air inlet at the front floor", words: "airWay" },
    { field: "notchEnd", label: "End that carries the notch", words: "tubeEnd" },
  ] as const;
  function count(tube: number, by: number) {
    const next = Array.from({ length: answer?.tubes ?? 0 }, (_, i) => counts[i] ?? 0);
    next[tube] = next[tube]! + by;
    set({ blocked: next });
  }
</script>

<section aria-labelledby="air-tubes">
  <h3 id="air-tubes" class="sr-only">Air tubes and air wash</h3>
  <div class="grid grid-cols-2 gap-x-4 gap-y-4 max-sm:grid-cols-1">
    <NumberField
      id="tubes-tubes"
      label="Air tubes"
      quantity="count"
      value={check.tubes ?? null}
      last={answer?.tubes ?? null}
      lastWord="taken as"
      errors={errors("tubes")}
      disabled={!visit.writable}
      onchange={(tubes) => set({ tubes: tubes === null ? null : Math.round(tubes) })}
    />
    <NumberField
      id="tubes-holesEach"
      label="Holes of each"
      quantity="count"
      value={check.holesEach ?? null}
      last={answer?.holesEach ?? null}
      lastWord="taken as"
      errors={errors("holesEach")}
      disabled={!visit.writable}
      onchange={(holesEach) => set({ holesEach: holesEach === null ? null : Math.round(holesEach) })}
    />
  </div>
  <p class="text-quiet mt-3 text-sm">Blocked holes, from the front. A tap on a tube adds one.</p>
  <ul aria-label="Holes blocked">
    {#each { length: answer?.tubes ?? 0 }, tube (tube)}
      {@const blocked = counts[tube] ?? 0}
      <li class="flex items-center gap-2">
        <button
          type="button"
          class="btn min-h-11"
          aria-label="Tube {tube + 1}: one less"
          disabled={!visit.writable || blocked === 0}
          onclick={() => count(tube, -1)}>−</button
        >
        <button
          type="button"
          class="min-w-0 grow cursor-pointer py-1"
          aria-label="Tube {tube + 1}: {blocked} of {holes} blocked, one more"
          disabled={!visit.writable || blocked >= holes}
          onclick={() => count(tube, 1)}
        >
          <svg viewBox="0 0 300 28" class="h-9 w-full" aria-hidden="true">
            <rect x="1" y="4" width="298" height="20" rx="10" class="fill-base-300 stroke-base-content" />
            {#each { length: holes }, hole (hole)}
              <circle
                cx={14 + (272 * (hole + 0.5)) / holes}
                cy="14"
                r={Math.min(5, 100 / holes)}
                class={hole < blocked ? "fill-base-content" : "fill-base-100 stroke-base-content"}
              />
            {/each}
          </svg>
        </button>
        <span class="measured w-14 text-right">{blocked}/{holes}</span>
      </li>
    {/each}
  </ul>
  {#each errors("blocked") as sentence, n (n)}<p class="text-error text-sm">{sentence}</p>{/each}
  <div class="mt-3 space-y-4">
    <Signs
      label="What is seen on the tubes"
      none="Whole, clips in place"
      words={tables.words("tubeSign")}
      seen={check.signs}
      errors={errors("signs")}
      disabled={!visit.writable}
      onchange={(seen) => set({ signs: seen as Check["signs"] })}
    />
    {#each ways as way (way.field)}
      <div>
        <span class="text-quiet mb-1 block text-sm">{way.label}</span>
        <Choices
          label={way.label}
          options={tables.words(way.words)}
          value={check[way.field] ?? null}
          disabled={!visit.writable}
          onchange={(word) => set({ [way.field]: word })}
        />
      </div>
    {/each}
  </div>
  <Reckoning reckoner={station.reckoner} assumed={answer?.assumed ?? []}>
    {#snippet more()}<Decided {visit} {step} parts={answer?.parts ?? []} />{/snippet}
  </Reckoning>
</section>
