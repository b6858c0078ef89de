<script lang="ts">
  import type { Schema } from "../api/client";
  import Choices from "../components/Choices.svelte";
  import NumberField from "../components/NumberField.svelte";
  import { live } from "../instruments/live.svelte";
  import { tables, type Quantity } from "../tables.svelte";
  import Reckoning from "../visits/Reckoning.svelte";
  import type { Step, VisitState } from "../visits/visit.svelte";

  let { visit, step }: { visit: VisitState; step: Step } = $props();

  type Record = Schema["WoodRecord"];
  const station = $derived(visit.station<Record, Schema["WoodAnswer"]>(step.code, "wood")!);
  const record = $derived(station.entry);
  const { errors } = $derived(station);
  const set = (change: Partial<Record>) => station.set(change);
  $effect(() => station.reckon());

  // Three pieces of three readings are asked for; more can be added.
  const pieces = $derived.by(() => {
    const taken = record.pieces ?? [];
    return Array.from({ length: Math.max(3, taken.length) }, (_, i) =>
      Array.from({ length: Math.max(3, taken[i]?.length ?? 0) }, (_, j) => taken[i]?.[j] ?? null),
    );
  });

  function setReading(piece: number, index: number, value: number | null) {
    set({ pieces: pieces.map((p, i) => (i === piece ? p.map((r, j) => (j === index ? value : r)) : p)) });
  }

  // The meter's reading goes into the first place that is still empty.
  function take() {
    const value = live.values["moistureDryShare"];
    const piece = pieces.findIndex((p) => p.includes(null));
    if (value !== undefined && piece >= 0) setReading(piece, pieces[piece]!.indexOf(null), value);
  }

  const measure = $derived(record.measure ?? "kg");
  const amountIn: { [of in NonNullable<Record["measure"]>]: Quantity } = {
    kg: "wood",
    cord: "ratio",
    "stacked-m3": "stacked-volume",
    bag: "ratio",
  };
</script>

{#snippet number(
  field: "woodC" | "speciesOffset" | "toldMoistureWet" | "amount" | "bagKg",
  label: string,
  quantity: Quantity,
)}
  <NumberField
    id={field}
    {label}
    {quantity}
    value={record[field] ?? null}
    errors={errors(field)}
    disabled={!visit.writable}
    onchange={(value) => set({ [field]: value })}
  />
{/snippet}

<section aria-labelledby="wood-found">
  <h3 id="wood-found" class="sr-only">The wood</h3>
  <p class="text-quiet text-sm">
    Split a piece; pins along the grain in the fresh middle face, never the ends or bark.
  </p>
  <div class="mt-4 flex flex-wrap items-center gap-2">
    <Choices
      label="Basis that the meter shows"
      options={tables.words("meterBasis")}
      value={record.meterBasis ?? "dry"}
      disabled={!visit.writable}
      onchange={(meterBasis) => set({ meterBasis: meterBasis as Record["meterBasis"] })}
    />
    {#if live.state === "off"}
      <button type="button" class="btn btn-sm" disabled={!visit.writable} onclick={() => live.connect(visit.id)}
        >Connect the meter</button
      >
    {:else if live.state === "connected" && live.values["moistureDryShare"] !== undefined}
      <span class="measured text-xl" data-live>{tables.show(live.values["moistureDryShare"], "share")}</span>
      {#if (record.meterBasis ?? "dry") === "dry"}
        <button type="button" class="btn btn-sm min-h-11" onclick={take}>Take it</button>
      {:else}
        <span class="text-quiet text-sm">The connected meter shows the dry basis.</span>
      {/if}
    {:else}
      <span class="text-quiet" role="status"
        >{live.state === "none" ? "No instruments are set up for this server." : "The meter does not answer yet."}</span
      >
    {/if}
  </div>
  <div class="mt-4 grid grid-cols-[auto_1fr_1fr_1fr] items-center gap-x-2 gap-y-2">
    {#each pieces as piece, i (i)}
      <span class="text-quiet text-sm">Piece {i + 1}</span>
      {#each piece as reading, j (j)}
        <NumberField
          bare
          compact
          id="piece{i}-{j}"
          label="Piece {i + 1}, reading {j + 1}"
          quantity="share"
          value={reading}
          errors={errors(`pieces[${i}][${j}]`)}
          disabled={!visit.writable}
          onchange={(value) => setReading(i, j, value)}
        />
      {/each}
    {/each}
  </div>
  <div class="mt-4 grid grid-cols-2 gap-x-4 gap-y-4 max-sm:grid-cols-1">
    {@render number("woodC", "Temperature of the wood", "temperature")}
    {#if record.pieces?.some((p) => p.some((r) => r !== null))}
      {@render number("speciesOffset", "Species offset, by the meter's table", "share")}
    {:else}
      {@render number("toldMoistureWet", "Not measured: told, wet basis", "share")}
    {/if}
  </div>
  <div class="mt-4 grid grid-cols-[auto_1fr] items-center gap-x-3 gap-y-3 text-sm">
    <span class="text-quiet">Wood</span>
    <div>
      <Choices
        label="Kind of wood"
        options={tables.words("woodKind")}
        value={record.wood ?? "mixed"}
        disabled={!visit.writable}
        onchange={(wood) => set({ wood: wood as Record["wood"] })}
      />
    </div>
    <span class="text-quiet">Habit</span>
    <div>
      <Choices
        label="How the household burns"
        options={tables.words("habit")}
        value={record.habit ?? "mixed"}
        disabled={!visit.writable}
        onchange={(habit) => set({ habit: habit as Record["habit"] })}
      />
    </div>
    <span class="text-quiet">Counted</span>
    <div>
      <Choices
        label="How the wood is counted"
        options={tables.words("woodMeasure")}
        value={measure}
        disabled={!visit.writable}
        onchange={(picked) => set({ measure: picked as Record["measure"], amount: null })}
      />
    </div>
  </div>
  <div class="mt-4 grid grid-cols-2 gap-x-4 gap-y-4 max-sm:grid-cols-1">
    {@render number("amount", "Wood a year", amountIn[measure])}
    {#if measure === "bag"}
      {@render number("bagKg", "A bag weighs", "mass")}
    {/if}
  </div>
</section>
<Reckoning reckoner={station.reckoner} assumed={station.answer?.assumed ?? []} />
