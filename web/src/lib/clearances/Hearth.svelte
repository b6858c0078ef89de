<script lang="ts">
  import type { Schema } from "../api/client";
  import AddRow from "../components/AddRow.svelte";
  import NumberField from "../components/NumberField.svelte";
  import PriceFields from "../components/PriceFields.svelte";
  import TakeOut from "../components/TakeOut.svelte";
  import { prices, type Thing } from "../prices.svelte";
  import { tables } from "../tables.svelte";
  import { ofThousandths, thousandths } from "../thousandths";
  import Decided from "../visits/Decided.svelte";
  import Reckoning from "../visits/Reckoning.svelte";
  import type { Step, VisitState } from "../visits/visit.svelte";

  let { visit, step }: { visit: VisitState; step: Step } = $props();

  type Check = Schema["HearthCheck"];
  type Layer = Schema["HearthLayer"];
  const station = $derived(visit.station<Check, Schema["HearthCheckAnswer"]>(step.code, "hearth")!);
  const check = $derived(station.entry);
  const answer = $derived(station.answer);
  const layers = $derived(check.layers ?? []);
  const { errors } = $derived(station);
  $effect(() => station.reckon(undefined, true));

  // What the firm has in its list, as it is sold.
  const materials: { thing: Thing; material: Layer["material"]; thicknessMm: number }[] = [
    { thing: "cement-board", material: "cement-board", thicknessMm: 12.7 },
    { thing: "mineral-board", material: "mineral-board", thicknessMm: 20 },
    { thing: "ceramic-tile", material: "ceramic-tile", thicknessMm: 9 },
    { thing: "stone", material: "stone", thicknessMm: 30 },
    { thing: "still-air", material: "still-air", thicknessMm: 25 },
  ];
  const offers = $derived(
    materials
      .filter((m) => prices.of(m.thing) !== null)
      .map((m) => ({
        id: prices.name(m.thing).replace(/, a m²$/, ""),
        material: m.material,
        thicknessMm: m.thicknessMm,
        pricePerM2: prices.of(m.thing),
      })),
  );
  // The stacks rest on today's prices: they go with the entry.
  const set = (change: Partial<Check>) => station.set({ ...change, offers });
  const setLayer = (at: number, by: Partial<Layer>) =>
    set({ layers: layers.map((l, i) => (i === at ? { ...l, ...by } : l)) });
  const add = (material: string) =>
    set({
      layers: [
        ...layers,
        {
          material: material as Layer["material"],
          thicknessMm: materials.find((m) => m.material === material)?.thicknessMm ?? null,
          count: 1,
        },
      ],
    });
  const sides = [
    { field: "frontMm", label: "in front" },
    { field: "sideMm", label: "at the side" },
    { field: "backMm", label: "behind" },
  ] as const;
  const most = $derived(
    Math.max(
      60,
      layers.reduce((sum, l) => sum + (l.thicknessMm ?? 0) * (l.count ?? 1), 0),
    ),
  );
</script>

<section aria-labelledby="hearth">
  <h3 id="hearth">Layers, from below</h3>
  <ol class="border-base-300 border-l-2">
    {#each layers as layer, i (i)}
      <li class="grid grid-cols-[1fr_8rem_6rem_auto] items-center gap-2 py-1 pl-3 max-sm:grid-cols-2">
        <span
          >{tables.word("hearthMaterial", layer.material)}
          <span
            class="bg-base-content mt-1 block opacity-60"
            style:height="{Math.max(2, (60 * (layer.thicknessMm ?? 0) * (layer.count ?? 1)) / most)}px"
          ></span></span
        >
        <NumberField
          bare
          compact
          id="layer-{i}-thickness"
          label="Thickness of layer {i + 1}"
          quantity="thickness"
          value={ofThousandths(layer.thicknessMm)}
          errors={errors(`layers[${i}].thicknessMm`)}
          disabled={!visit.writable}
          onchange={(m) => setLayer(i, { thicknessMm: thousandths(m) })}
        />
        <NumberField
          bare
          compact
          id="layer-{i}-count"
          label="How many of layer {i + 1}"
          quantity="count"
          value={layer.count ?? 1}
          errors={errors(`layers[${i}].count`)}
          disabled={!visit.writable}
          onchange={(n) => setLayer(i, { count: n === null ? null : Math.round(n) })}
        />
        {#if visit.writable}
          <TakeOut label="Take out layer {i + 1}" onclick={() => set({ layers: layers.filter((_, at) => at !== i) })} />
        {/if}
        {#if layer.material === "other"}
          <NumberField
            compact
            id="layer-{i}-r"
            label="Its resistance"
            quantity="resistance"
            value={layer.rM2KW ?? null}
            errors={errors(`layers[${i}].rM2KW`)}
            disabled={!visit.writable}
            onchange={(rM2KW) => setLayer(i, { rM2KW })}
          />
        {/if}
      </li>
    {/each}
  </ol>
  {#if visit.writable}
    <AddRow label="Add a layer" kinds={tables.words("hearthMaterial")} full={layers.length >= 40} onadd={add} />
  {/if}
  <div class="mt-4 grid grid-cols-2 gap-x-4 gap-y-4 max-sm:grid-cols-1">
    <NumberField
      id="hearth-requiredRM2KW"
      label="Resistance that the label asks for"
      quantity="resistance"
      value={check.requiredRM2KW ?? null}
      errors={errors("requiredRM2KW")}
      disabled={!visit.writable}
      onchange={(requiredRM2KW) => set({ requiredRM2KW })}
    />
    {#if answer?.kind === "fireplace"}
      <NumberField
        id="hearth-openingM2"
        label="Opening of the fireplace"
        quantity="area"
        value={check.openingM2 ?? null}
        errors={errors("openingM2")}
        disabled={!visit.writable}
        onchange={(openingM2) => set({ openingM2 })}
      />
    {/if}
  </div>
  <h3 class="mt-7 mb-2">How far it reaches</h3>
  <div class="grid grid-cols-3 gap-x-4 gap-y-4 max-sm:grid-cols-1">
    {#each sides as side (side.field)}
      <NumberField
        compact
        id="hearth-found-{side.field}"
        label="Found {side.label}"
        quantity="bore"
        value={ofThousandths(check.found?.[side.field])}
        errors={errors(`found.${side.field}`)}
        disabled={!visit.writable}
        onchange={(m) => set({ found: { ...check.found, [side.field]: thousandths(m) } })}
      />
    {/each}
    {#each sides as side (side.field)}
      <NumberField
        compact
        id="hearth-label-{side.field}"
        label="Label {side.label}"
        quantity="bore"
        value={ofThousandths(check.label?.[side.field])}
        errors={errors(`label.${side.field}`)}
        disabled={!visit.writable}
        onchange={(m) => set({ label: { ...check.label, [side.field]: thousandths(m) } })}
      />
    {/each}
  </div>
  <Reckoning reckoner={station.reckoner} assumed={answer?.reckoned.assumed ?? []}>
    {#snippet more()}<Decided {visit} {step} parts={answer?.parts ?? []} />{/snippet}
  </Reckoning>
  <details class="mt-3">
    <summary class="text-quiet min-h-11 cursor-pointer py-2">What could be laid, and what it costs</summary>
    <PriceFields things={materials.map((m) => m.thing)} />
    {#if visit.writable}
      <button type="button" class="btn btn-sm mt-2 min-h-11" onclick={() => set({})}>Reckon with these prices</button>
    {/if}
  </details>
</section>
