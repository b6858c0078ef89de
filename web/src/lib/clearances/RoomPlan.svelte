<script lang="ts">
  import type { Schema } from "../api/client";
  import AddRow from "../components/AddRow.svelte";
  import NumberField from "../components/NumberField.svelte";
  import TakeOut from "../components/TakeOut.svelte";
  import TextField from "../components/TextField.svelte";
  import Tick from "../components/Tick.svelte";
  import { tables } from "../tables.svelte";
  import { ofThousandths, thousandths } from "../thousandths";
  import Decided from "../visits/Decided.svelte";
  import Reckoning from "../visits/Reckoning.svelte";
  import type { Step, VisitState } from "../visits/visit.svelte";
  import PlanDrawing from "./PlanDrawing.svelte";

  let { visit, step }: { visit: VisitState; step: Step } = $props();

  type Thing = Schema["NearThing"];
  const station = $derived(visit.station<Schema["RoomPlan"], Schema["RoomPlanAnswer"]>(step.code, "room-plan")!);
  const answer = $derived(station.answer);
  const { errors } = $derived(station);
  // The room stays as it was measured at the visit before, until something of it is measured anew.
  const things = $derived<Thing[]>(station.entry.things ?? station.earlier?.things ?? []);
  const earlier = $derived(station.entry.things == null && things.length > 0);
  $effect(() => station.reckon({ things: $state.snapshot(things) }, true));

  const set = (next: Thing[]) => station.set({ things: next });
  const change = (at: number, by: Partial<Thing>) => set(things.map((t, i) => (i === at ? { ...t, ...by } : t)));
  const usual = { back: "wall behind", left: "wall left", right: "wall right", front: "furniture", above: "ceiling" };
  const add = (side: string) =>
    set([...things, { name: usual[side as keyof typeof usual], side: side as Thing["side"], of: "stove" }]);
</script>

<section aria-labelledby="room-plan">
  <h3 id="room-plan" class="sr-only">Distances to what burns</h3>
  {#if answer && things.length}
    <PlanDrawing {things} {answer} disabled={!visit.writable} onmove={(at, foundMm) => change(at, { foundMm })} />
    <p class="text-quiet text-sm">
      Drag a wall, or type. Dashed: what is asked for.{earlier ? " As at the visit before." : ""}
    </p>
  {/if}
  <ol>
    {#each things as thing, i (i)}
      {@const clearance = answer?.things[i]?.clearance}
      <li class="border-base-300 border-b py-3">
        <div class="grid grid-cols-[1fr_9rem_9rem_auto] items-end gap-2 max-sm:grid-cols-2">
          <TextField
            id="thing-{i}-name"
            label={tables.word("stoveSide", thing.side)}
            value={thing.name ?? ""}
            most={60}
            errors={errors(`things[${i}].name`)}
            disabled={!visit.writable}
            onchange={(name) => change(i, { name })}
          />
          <NumberField
            compact
            id="thing-{i}-found"
            label="Distance"
            quantity="bore"
            value={ofThousandths(thing.foundMm)}
            errors={errors(`things[${i}].foundMm`)}
            disabled={!visit.writable}
            onchange={(m) => change(i, { foundMm: thousandths(m) })}
          />
          <NumberField
            compact
            id="thing-{i}-label"
            label="By the label"
            quantity="bore"
            value={ofThousandths(thing.labelMm)}
            errors={errors(`things[${i}].labelMm`)}
            disabled={!visit.writable}
            onchange={(m) => change(i, { labelMm: thousandths(m) })}
          />
          {#if visit.writable}
            <TakeOut label="Take out {thing.name}" onclick={() => set(things.filter((_, at) => at !== i))} />
          {/if}
        </div>
        <div class="mt-2 flex flex-wrap items-center gap-x-4 gap-y-2">
          <select
            class="select min-h-11 w-48"
            aria-label="{thing.name}: measured to"
            value={thing.of ?? "stove"}
            disabled={!visit.writable}
            onchange={(e) => change(i, { of: e.currentTarget.value as Thing["of"] })}
          >
            {#each tables.words("clearanceOf") as word (word.code)}<option value={word.code}>{word.name}</option>{/each}
          </select>
          <select
            class="select min-h-11 w-44"
            aria-label="{thing.name}: shield"
            value={thing.shield ?? "none"}
            disabled={!visit.writable}
            onchange={(e) => change(i, { shield: e.currentTarget.value as Thing["shield"] })}
          >
            {#each tables.words("shield") as word (word.code)}<option value={word.code}
                >{word.code === "none" ? "No shield" : word.name}</option
              >{/each}
          </select>
          {#if thing.labelMm != null && (thing.shield ?? "none") !== "none"}
            <NumberField
              compact
              id="thing-{i}-minimum"
              label="Least with a shield, by the label"
              quantity="bore"
              value={ofThousandths(thing.labelMinimumMm)}
              errors={errors(`things[${i}].labelMinimumMm`)}
              disabled={!visit.writable}
              onchange={(m) => change(i, { labelMinimumMm: thousandths(m) })}
            />
          {/if}
          <Tick
            label="Scorched"
            checked={thing.scorched ?? false}
            disabled={!visit.writable}
            onchange={(scorched) => change(i, { scorched })}
          />
          {#if clearance?.withShieldMm != null}
            <span class={clearance.ok === false ? "text-error font-bold" : ""}
              >asked for <span class="computed">{tables.show(clearance.withShieldMm / 1000, "bore")}</span></span
            >
          {/if}
        </div>
      </li>
    {/each}
  </ol>
  {#each errors("things") as sentence, n (n)}<p class="text-error text-sm">{sentence}</p>{/each}
  {#if visit.writable}
    <AddRow label="Add something that burns" kinds={tables.words("stoveSide")} full={things.length >= 20} onadd={add} />
  {/if}
  <Reckoning reckoner={station.reckoner} assumed={[]}>
    {#snippet more()}<Decided {visit} {step} parts={answer?.parts ?? []} />{/snippet}
  </Reckoning>
</section>
