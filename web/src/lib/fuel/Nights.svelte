<script lang="ts">
  import type { Schema } from "../api/client";
  import Choices from "../components/Choices.svelte";
  import NumberField from "../components/NumberField.svelte";
  import TakeOut from "../components/TakeOut.svelte";
  import { tables, type Quantity } from "../tables.svelte";
  import Reckoning from "../visits/Reckoning.svelte";
  import type { Step, VisitState } from "../visits/visit.svelte";

  let { visit, step }: { visit: VisitState; step: Step } = $props();

  type Entry = Schema["Nights"];
  type Night = Schema["ToldNight"];
  const station = $derived(visit.station<Entry, Schema["NightsAnswer"]>(step.code, "nights")!);
  const entry = $derived(station.entry);
  const answer = $derived(station.answer);
  const told = $derived(entry.told ?? []);
  const { errors } = $derived(station);
  const set = (change: Partial<Entry>) => station.set(change);
  $effect(() => station.reckon(undefined, true));

  const change = (at: number, by: Partial<Night>) =>
    set({ told: told.map((n, i) => (i === at ? { ...n, ...by } : n)) });
  const fields: { field: keyof Night & string; label: string; quantity: Quantity }[] = [
    { field: "loadKg", label: "Wood put on", quantity: "mass" },
    { field: "hours", label: "Hours", quantity: "ratio" },
    { field: "inStartC", label: "Room, evening", quantity: "temperature" },
    { field: "inEndC", label: "Room, morning", quantity: "temperature" },
    { field: "outStartC", label: "Outdoors, evening", quantity: "temperature" },
    { field: "outEndC", label: "Outdoors, morning", quantity: "temperature" },
  ];
</script>

<section aria-labelledby="nights">
  <h3 id="nights" class="sr-only">The night</h3>
  <ol>
    {#each told as night, i (i)}
      <li class="border-base-300 border-b py-3">
        <div class="flex items-center gap-3">
          <h4 class="grow font-bold">Night {i + 1}</h4>
          <Choices
            label="Coals in the morning of night {i + 1}"
            options={tables.words("coals")}
            value={night.coals ?? "some"}
            disabled={!visit.writable}
            onchange={(coals) => change(i, { coals: coals as Night["coals"] })}
          />
          {#if visit.writable}
            <TakeOut label="Take out night {i + 1}" onclick={() => set({ told: told.filter((_, at) => at !== i) })} />
          {/if}
        </div>
        <div class="mt-2 grid grid-cols-3 gap-3 max-sm:grid-cols-2">
          {#each fields as f (f.field)}
            <NumberField
              compact
              id="night-{i}-{f.field}"
              label={f.label}
              quantity={f.quantity}
              value={(night[f.field] as number | null | undefined) ?? null}
              errors={errors(`told[${i}].${f.field}`)}
              disabled={!visit.writable}
              onchange={(value) => change(i, { [f.field]: value })}
            />
          {/each}
        </div>
      </li>
    {/each}
  </ol>
  {#each errors("told") as sentence, n (n)}<p class="text-error text-sm">{sentence}</p>{/each}
  {#if visit.writable}
    <button
      type="button"
      class="btn btn-sm mt-3 min-h-11"
      disabled={told.length >= 12}
      onclick={() => set({ told: [...told, {}] })}>+ a night</button
    >
  {/if}
  <h3 class="mt-7 mb-2">The night that is wanted</h3>
  <div class="grid grid-cols-3 gap-x-4 gap-y-4 max-sm:grid-cols-1">
    <NumberField
      compact
      id="wantedHours"
      label="Hours"
      quantity="ratio"
      value={entry.wantedHours ?? null}
      last={answer?.usualHours ?? null}
      lastWord="taken as"
      errors={errors("wantedHours")}
      disabled={!visit.writable}
      onchange={(wantedHours) => set({ wantedHours })}
    />
    <NumberField
      compact
      id="wantedInC"
      label="Room"
      quantity="temperature"
      value={entry.wantedInC ?? null}
      last={answer?.usualRoomC ?? null}
      lastWord="taken as"
      errors={errors("wantedInC")}
      disabled={!visit.writable}
      onchange={(wantedInC) => set({ wantedInC })}
    />
    <NumberField
      compact
      id="wantedOutC"
      label="Outdoors"
      quantity="temperature"
      value={entry.wantedOutC ?? null}
      last={answer?.wantedOutC ?? null}
      lastWord="taken as"
      errors={errors("wantedOutC")}
      disabled={!visit.writable}
      onchange={(wantedOutC) => set({ wantedOutC })}
    />
  </div>
  <Reckoning reckoner={station.reckoner} assumed={answer?.assumed ?? []} />
</section>
