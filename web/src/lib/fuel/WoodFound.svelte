<script lang="ts">
  import { onDestroy } from "svelte";
  import { api, type Schema } from "../api/client";
  import Choice from "../components/Choice.svelte";
  import NumberField from "../components/NumberField.svelte";
  import Reckoning from "../flue/Reckoning.svelte";
  import { Reckoner } from "../flue/reckoner.svelte";
  import { Live } from "../instruments/live.svelte";
  import type { VisitState } from "../service/visit.svelte";
  import { settings } from "../settings.svelte";
  import { tables, type Quantity } from "../tables.svelte";

  let { visit }: { visit: VisitState } = $props();

  type Record = Schema["WoodRecord"];
  const saver = $derived(visit.steps["arrive"]!);
  const record = $derived<Record>(saver.value.wood ?? {});
  const reckoner = new Reckoner<Schema["WoodAnswer"]>();
  const errors = (field: string) => reckoner.refused[field] ?? saver.errors[field] ?? [];
  const live = new Live();
  onDestroy(() => live.close());

  $effect(() => {
    const body = $state.snapshot(record) as Record;
    const params = { path: { id: visit.id }, query: { units: settings.system } };
    void reckoner.ask(api.POST("/api/visits/{id}/wood", { params, body }));
  });

  function set(change: Partial<Record>) {
    saver.value.wood = { ...record, ...change };
    saver.changed();
  }

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

  const bases = [
    { code: "dry", name: "Dry basis" },
    { code: "wet", name: "Wet basis" },
  ] as const;
  const woods = [
    { code: "softwood", name: "Softwood" },
    { code: "hardwood", name: "Hardwood" },
    { code: "mixed", name: "Mixed" },
  ] as const;
  const measures = [
    { code: "kg", name: "By weight" },
    { code: "cord", name: "Cords" },
    { code: "stacked-m3", name: "Stacked" },
    { code: "bag", name: "Bags" },
  ] as const;
  const habits = [
    { code: "hot", name: "Hot fires" },
    { code: "mixed", name: "Mixed" },
    { code: "slow", name: "Slow nights" },
  ] as const;
  const measure = $derived((record.measure ?? "kg") as (typeof measures)[number]["code"]);
  const amountIn: { [of in typeof measure]: Quantity } = {
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
  <h3 id="wood-found" class="mt-1">The wood</h3>
  <p class="text-quiet text-sm">
    Split a piece; pins along the grain in the fresh middle face, never the ends or bark.
  </p>
  <div class="flex flex-wrap items-center gap-2 py-1">
    <Choice
      label="Basis that the meter shows"
      options={bases}
      value={(record.meterBasis ?? "dry") as "dry"}
      disabled={!visit.writable}
      onchange={(meterBasis) => set({ meterBasis })}
    />
    {#if live.state === "off"}
      <button type="button" class="btn btn-sm" disabled={!visit.writable} onclick={() => live.connect(visit.id)}
        >Connect the meter</button
      >
    {:else if live.state === "connected" && live.values["moistureDryShare"] !== undefined}
      <span class="measured text-xl" data-live>{tables.show(live.values["moistureDryShare"], "share")}</span>
      {#if (record.meterBasis ?? "dry") === "dry"}
        <button type="button" class="btn btn-sm btn-primary" onclick={take}>Take it</button>
      {:else}
        <span class="text-quiet text-sm">The connected meter shows the dry basis.</span>
      {/if}
    {:else}
      <span class="text-quiet" role="status"
        >{live.state === "none" ? "No instruments are set up for this server." : "The meter does not answer yet."}</span
      >
    {/if}
  </div>
  <div class="grid grid-cols-[auto_1fr_1fr_1fr] items-center gap-x-2">
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
  <div class="grid grid-cols-2 gap-x-4 max-sm:grid-cols-1">
    {@render number("woodC", "Temperature of the wood", "temperature")}
    {#if record.pieces?.some((p) => p.some((r) => r !== null))}
      {@render number("speciesOffset", "Species offset, by the meter's table", "share")}
    {:else}
      {@render number("toldMoistureWet", "Not measured: told, wet basis", "share")}
    {/if}
  </div>
  <div class="grid grid-cols-[auto_1fr] items-center gap-x-3 gap-y-1.5 py-1 text-sm">
    <span class="text-quiet">Wood</span>
    <div>
      <Choice
        label="Kind of wood"
        options={woods}
        value={(record.wood ?? "mixed") as "mixed"}
        disabled={!visit.writable}
        onchange={(wood) => set({ wood })}
      />
    </div>
    <span class="text-quiet">Habit</span>
    <div>
      <Choice
        label="How the household burns"
        options={habits}
        value={(record.habit ?? "mixed") as "mixed"}
        disabled={!visit.writable}
        onchange={(habit) => set({ habit })}
      />
    </div>
    <span class="text-quiet">Counted</span>
    <div>
      <Choice
        label="How the wood is counted"
        options={measures}
        value={measure}
        disabled={!visit.writable}
        onchange={(measure) => set({ measure, amount: null })}
      />
    </div>
  </div>
  <div class="grid grid-cols-2 gap-x-4 max-sm:grid-cols-1">
    {@render number("amount", "Wood a year", amountIn[measure])}
    {#if measure === "bag"}
      {@render number("bagKg", "A bag weighs", "mass")}
    {/if}
  </div>
</section>
<Reckoning id="wood-reckoning" {reckoner} assumed={reckoner.answer?.assumed ?? []} />
