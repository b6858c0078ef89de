<script lang="ts">
  import type { Schema } from "../api/client";
  import AddRow from "../components/AddRow.svelte";
  import Choices from "../components/Choices.svelte";
  import NumberField from "../components/NumberField.svelte";
  import TakeOut from "../components/TakeOut.svelte";
  import TextField from "../components/TextField.svelte";
  import { timeNow } from "../dates";
  import { tables } from "../tables.svelte";
  import { ofThousandths, thousandths } from "../thousandths";
  import Decided from "../visits/Decided.svelte";
  import Reckoning from "../visits/Reckoning.svelte";
  import type { Step, VisitState } from "../visits/visit.svelte";
  import SpotsDrawing from "./SpotsDrawing.svelte";

  let { visit, step }: { visit: VisitState; step: Step } = $props();

  type Check = Schema["SurfaceCheck"];
  type Spot = Schema["ReadSpot"];
  const station = $derived(visit.station<Check, Schema["SurfaceCheckAnswer"]>(step.code, "surfaces")!);
  const check = $derived(station.entry);
  const answer = $derived(station.answer);
  const spots = $derived(check.spots ?? []);
  const { errors } = $derived(station);
  const set = (change: Partial<Check>) => station.set(change);
  $effect(() => station.reckon(undefined, true));

  const change = (at: number, by: Partial<Spot>) =>
    set({ spots: spots.map((s, i) => (i === at ? { ...s, ...by } : s)) });
  const read = (at: number, readC: number | null) =>
    change(at, { readC, readAt: readC === null ? null : (spots[at]!.readAt ?? `${timeNow()}:00`) });
  const usual = ["mantel", "floor in front", "side wall", "ceiling by the pipe"].map((name) => ({ code: name, name }));
  const wanted = $derived([
    ...usual.filter((u) => !spots.some((s) => s.label === u.name)),
    { code: "", name: "another" },
  ]);
  const judged = (label: string | null | undefined) => answer?.reckoned?.spots.find((s) => s.label === label);
</script>

<section aria-labelledby="surfaces">
  <h3 id="surfaces" class="sr-only">Surfaces near the stove</h3>
  {#if answer && spots.length}
    <SpotsDrawing {spots} {answer} disabled={!visit.writable} onplace={change} />
  {/if}
  <ol>
    {#each spots as spot, i (i)}
      {@const of = judged(spot.label)}
      <li class="border-base-300 border-b py-3">
        <div class="grid grid-cols-[1fr_8rem_8rem_auto] items-end gap-2 max-sm:grid-cols-2">
          <TextField
            id="spot-{i}-label"
            label="Surface"
            value={spot.label ?? ""}
            most={80}
            errors={errors(`spots[${i}].label`)}
            disabled={!visit.writable}
            onchange={(label) => change(i, { label })}
          />
          <NumberField
            compact
            id="spot-{i}-readC"
            label={spot.readAt ? `Read at ${spot.readAt.slice(0, 5)}` : "Reads"}
            quantity="temperature"
            value={spot.readC ?? null}
            errors={errors(`spots[${i}].readC`)}
            disabled={!visit.writable}
            onchange={(readC) => read(i, readC)}
          />
          <NumberField
            compact
            id="spot-{i}-laterC"
            label="An hour later"
            quantity="temperature"
            value={spot.laterC ?? null}
            errors={errors(`spots[${i}].laterC`)}
            disabled={!visit.writable}
            onchange={(laterC) => change(i, { laterC })}
          />
          {#if visit.writable}
            <TakeOut label="Take out {spot.label}" onclick={() => set({ spots: spots.filter((_, at) => at !== i) })} />
          {/if}
        </div>
        <div class="mt-2 flex flex-wrap items-center gap-x-4 gap-y-2">
          <Choices
            label="{spot.label}: in sight or hidden"
            options={tables.words("spotKind")}
            value={spot.kind ?? "exposed"}
            disabled={!visit.writable}
            onchange={(kind) => change(i, { kind: kind as Spot["kind"] })}
          />
          <select
            class="select min-h-11 w-40"
            aria-label="{spot.label}: side of the stove"
            value={spot.side ?? answer?.places[i]?.side ?? "front"}
            disabled={!visit.writable}
            onchange={(e) => change(i, { side: e.currentTarget.value as Spot["side"] })}
          >
            {#each tables.words("stoveSide") as word (word.code)}<option value={word.code}>{word.name}</option>{/each}
          </select>
          {#each [{ name: "awayMm", label: "From the stove", usual: answer?.places[i]?.awayM }, { name: "heightMm", label: "Above the floor", usual: answer?.places[i]?.heightM }] as const as measure (measure.name)}
            <div class="w-36">
              <NumberField
                compact
                id="spot-{i}-{measure.name}"
                label={measure.label}
                quantity="bore"
                value={ofThousandths(spot[measure.name])}
                last={measure.usual ?? null}
                lastWord="drawn at"
                errors={errors(`spots[${i}].${measure.name}`)}
                disabled={!visit.writable}
                onchange={(m) => change(i, { [measure.name]: thousandths(m) })}
              />
            </div>
          {/each}
          <div class="w-40">
            <NumberField
              compact
              id="spot-{i}-emissivity"
              label="Emissivity"
              quantity="ratio"
              value={spot.emissivity ?? null}
              errors={errors(`spots[${i}].emissivity`)}
              disabled={!visit.writable}
              onchange={(emissivity) => change(i, { emissivity })}
            />
          </div>
          {#if of}
            <div class="min-w-40 grow">
              <svg viewBox="0 0 200 14" class="h-3.5 w-full" preserveAspectRatio="none" aria-hidden="true">
                <rect
                  y="3"
                  height="8"
                  width={Math.min(200, 150 * of.share)}
                  class={of.passes ? "fill-computed" : "fill-error"}
                />
                <path d="M150 0V14" class="stroke-base-content" stroke-width="1.5" />
              </svg>
              <span class="text-sm {of.passes ? '' : 'text-error font-bold'}"
                ><span class="computed">{tables.show(of.riseHighK, "temperature-difference")}</span> at high fire, of {tables.show(
                  of.limitK,
                  "temperature-difference",
                )}</span
              >
            </div>
          {/if}
        </div>
      </li>
    {/each}
  </ol>
  {#each errors("spots") as sentence, n (n)}<p class="text-error text-sm">{sentence}</p>{/each}
  {#if visit.writable}
    <AddRow
      label="Add a surface"
      kinds={wanted}
      full={spots.length >= 20}
      onadd={(label) => set({ spots: [...spots, { label }] })}
    />
  {/if}
  <div class="mt-4 grid grid-cols-3 gap-x-4 gap-y-4 max-sm:grid-cols-1">
    <NumberField
      id="surface-roomC"
      label="Room"
      quantity="temperature"
      instrument="roomC"
      value={check.roomC ?? null}
      errors={errors("roomC")}
      disabled={!visit.writable}
      onchange={(roomC) => set({ roomC })}
    />
    <NumberField
      id="surface-gasNowC"
      label="Flue gas now"
      quantity="temperature"
      instrument="gasC"
      value={check.gasNowC ?? null}
      errors={errors("gasNowC")}
      disabled={!visit.writable}
      onchange={(gasNowC) => set({ gasNowC })}
    />
    <NumberField
      id="surface-gaugeEmissivity"
      label="Gauge is set to"
      quantity="ratio"
      value={check.gaugeEmissivity ?? null}
      errors={errors("gaugeEmissivity")}
      disabled={!visit.writable}
      onchange={(gaugeEmissivity) => set({ gaugeEmissivity })}
    />
  </div>
  <Reckoning reckoner={station.reckoner} assumed={answer?.assumed ?? []}>
    {#snippet more()}<Decided {visit} {step} parts={answer?.parts ?? []} />{/snippet}
  </Reckoning>
</section>
