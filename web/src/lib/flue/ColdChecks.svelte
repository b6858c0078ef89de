<script lang="ts">
  import type { Schema } from "../api/client";
  import AddRow from "../components/AddRow.svelte";
  import Choices from "../components/Choices.svelte";
  import NumberField from "../components/NumberField.svelte";
  import TakeOut from "../components/TakeOut.svelte";
  import LiveGauge from "../instruments/LiveGauge.svelte";
  import { tables, type Quantity } from "../tables.svelte";
  import Reckoning from "../visits/Reckoning.svelte";
  import type { Step, VisitState } from "../visits/visit.svelte";

  let { visit, step }: { visit: VisitState; step: Step } = $props();

  type Checks = Schema["ColdChecks"];
  const station = $derived(visit.station<Checks, Schema["ColdChecksAnswer"]>(step.code, "cold-flue")!);
  const checks = $derived(station.entry);
  const fans = $derived(checks.fans ?? []);
  const { errors } = $derived(station);
  const set = (change: Partial<Checks>) => station.set(change);
  const reckoner = $derived(station.reckoner);
  $effect(() => station.reckon());

  type Field = "outdoorC" | "overnightLowC" | "roomC" | "coldDraftPa" | "roomOffPa" | "roomOnPa" | "supplyM3S";
  const cold: { field: Field; label: string; quantity: Quantity; instrument?: string }[] = [
    { field: "outdoorC", label: "Outdoors", quantity: "temperature" },
    { field: "overnightLowC", label: "Lowest of the night", quantity: "temperature" },
    { field: "roomC", label: "Room", quantity: "temperature", instrument: "roomC" },
    { field: "coldDraftPa", label: "Cold draft by gauge", quantity: "draft", instrument: "draftPa" },
  ];
  const house: typeof cold = [
    { field: "roomOffPa", label: "Room against outdoors, all off", quantity: "draft", instrument: "roomPa" },
    { field: "roomOnPa", label: "All on, doors set worst", quantity: "draft", instrument: "roomPa" },
    { field: "supplyM3S", label: "Supply air", quantity: "air-flow" },
  ];
  const fanName = (kind: string | null | undefined) => tables.all?.fans.find((f) => f.code === kind)?.name ?? "fan";
  const typical = (kind: string | null | undefined) =>
    tables.all?.fans.find((f) => f.code === kind)?.flowM3S.value ?? null;
</script>

{#snippet number(entry: (typeof cold)[number])}
  <NumberField
    id={entry.field}
    label={entry.label}
    quantity={entry.quantity}
    instrument={entry.instrument}
    value={checks[entry.field] ?? null}
    errors={errors(entry.field)}
    disabled={!visit.writable}
    onchange={(value) => set({ [entry.field]: value })}
  />
{/snippet}

{#if visit.writable}<div class="mb-4"><LiveGauge visitId={visit.id} /></div>{/if}
<h3 class="mb-2">Does the air fall?</h3>
<div class="mb-4 flex flex-wrap items-center gap-x-3 gap-y-2">
  <Choices
    label="Air at the collar"
    options={tables.words("airFall")}
    value={checks.airFall ?? null}
    disabled={!visit.writable}
    onchange={(airFall) => set({ airFall: airFall as Checks["airFall"] })}
  />
  <span class="text-quiet text-sm">warmed with</span>
  <Choices
    label="To warm the flue with"
    options={tables.words("heatSource")}
    value={checks.source ?? "torch"}
    disabled={!visit.writable}
    onchange={(source) => set({ source: source as Checks["source"] })}
  />
</div>
<div class="grid grid-cols-2 gap-x-4 gap-y-4 max-sm:grid-cols-1">
  {#each cold as entry (entry.field)}{@render number(entry)}{/each}
</div>

<h3 class="mt-7 mb-2">The house</h3>
<div class="grid grid-cols-2 gap-x-4 gap-y-4 max-sm:grid-cols-1">
  {#each house as entry (entry.field)}{@render number(entry)}{/each}
</div>
{#if visit.doc.house.volumeM3 == null}
  <p class="text-quiet text-sm">The house’s volume is not in the records: its pressure is measured, not computed.</p>
{/if}
<ol class="border-base-300 border-l-2">
  {#each fans as fan, i (i)}
    {@const step = reckoner.answer?.fansOneByOne[i]}
    <li class="grid grid-cols-[8rem_12rem_1fr_auto] items-center gap-x-3 py-0.5 pl-3 max-sm:grid-cols-1">
      <span>{fanName(fan.kind)}</span>
      <NumberField
        bare
        id="fan-{i}"
        label="Flow of {fanName(fan.kind)}"
        quantity="air-flow"
        value={fan.flowM3S ?? typical(fan.kind)}
        errors={errors(`fans[${i}].flowM3S`)}
        disabled={!visit.writable}
        onchange={(flowM3S) => set({ fans: fans.map((f, at) => (at === i ? { ...f, flowM3S } : f)) })}
      />
      <span
        >{#if step}room <span class="computed whitespace-nowrap">{tables.show(step.roomPa, "draft")}</span>{/if}</span
      >
      {#if visit.writable}
        <TakeOut label="Take out {fanName(fan.kind)}" onclick={() => set({ fans: fans.filter((_, at) => at !== i) })} />
      {/if}
    </li>
  {/each}
</ol>
{#if visit.writable}
  <AddRow
    label="Add a fan"
    kinds={tables.all?.fans ?? []}
    full={fans.length >= 12}
    onadd={(code) => set({ fans: [...fans, { kind: code as Schema["FanEntry"]["kind"], flowM3S: null }] })}
  />
{/if}

<Reckoning
  {reckoner}
  assumed={[...(reckoner.answer?.start.assumed ?? []), ...(reckoner.answer?.house?.assumed ?? [])]}
/>
