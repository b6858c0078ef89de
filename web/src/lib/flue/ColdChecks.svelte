<script lang="ts">
  import { api, type Schema } from "../api/client";
  import Choice from "../components/Choice.svelte";
  import NumberField from "../components/NumberField.svelte";
  import type { VisitState } from "../service/visit.svelte";
  import { settings } from "../settings.svelte";
  import { tables, type Quantity } from "../tables.svelte";
  import Reckoning from "./Reckoning.svelte";
  import { Reckoner } from "./reckoner.svelte";

  let { visit }: { visit: VisitState } = $props();

  type Checks = Schema["ColdChecks"];
  const saver = $derived(visit.steps["cold-checks"]!);
  const checks = $derived<Checks>(saver.value.coldChecks ?? {});
  const fans = $derived(checks.fans ?? []);
  const reckoner = new Reckoner<Schema["ColdChecksAnswer"]>();
  const errors = (field: string) => reckoner.refused[field] ?? saver.errors[field] ?? [];

  $effect(() => {
    const body = $state.snapshot(checks) as Checks;
    const params = { path: { id: visit.id }, query: { units: settings.system } };
    void reckoner.ask(api.POST("/api/visits/{id}/cold-checks", { params, body }));
  });

  function set(change: Partial<Checks>) {
    saver.value.coldChecks = { ...checks, ...change };
    saver.changed();
  }

  const falls = [
    { code: "falls", name: "Air falls" },
    { code: "stands", name: "Stands" },
    { code: "rises", name: "Rises" },
  ] as const;
  const sources = [
    { code: "torch", name: "Torch" },
    { code: "dryer", name: "Hair dryer" },
    { code: "newspaper", name: "Newspaper" },
  ] as const;
  type Field = "outdoorC" | "overnightLowC" | "roomC" | "coldDraftPa" | "roomOffPa" | "roomOnPa" | "supplyM3S";
  const cold: { field: Field; label: string; quantity: Quantity }[] = [
    { field: "outdoorC", label: "Outdoors", quantity: "temperature" },
    { field: "overnightLowC", label: "Lowest of the night", quantity: "temperature" },
    { field: "roomC", label: "Room", quantity: "temperature" },
    { field: "coldDraftPa", label: "Cold draft by gauge", quantity: "draft" },
  ];
  const house: typeof cold = [
    { field: "roomOffPa", label: "Room against outdoors, all off", quantity: "draft" },
    { field: "roomOnPa", label: "All on, doors set worst", quantity: "draft" },
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
    value={checks[entry.field] ?? null}
    errors={errors(entry.field)}
    disabled={!visit.writable}
    onchange={(value) => set({ [entry.field]: value })}
  />
{/snippet}

<h3 class="mt-1">Does the air fall?</h3>
<div class="flex flex-wrap items-center gap-x-3 gap-y-1 py-1">
  <Choice
    label="Air at the collar"
    options={falls}
    value={(checks.airFall ?? null) as "falls" | null}
    disabled={!visit.writable}
    onchange={(airFall) => set({ airFall })}
  />
  <span class="text-quiet text-sm">warmed with</span>
  <Choice
    label="To warm the flue with"
    options={sources}
    value={(checks.source ?? "torch") as "torch"}
    disabled={!visit.writable}
    onchange={(source) => set({ source })}
  />
</div>
<div class="grid grid-cols-2 gap-x-4 max-sm:grid-cols-1">
  {#each cold as entry (entry.field)}{@render number(entry)}{/each}
</div>

<h3>The house</h3>
<div class="grid grid-cols-2 gap-x-4 max-sm:grid-cols-1">
  {#each house as entry (entry.field)}{@render number(entry)}{/each}
</div>
{#if visit.doc.stove.houseVolumeM3 == null}
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
        <button
          type="button"
          class="btn btn-ghost btn-sm"
          aria-label="Take out {fanName(fan.kind)}"
          onclick={() => set({ fans: fans.filter((_, at) => at !== i) })}>×</button
        >
      {/if}
    </li>
  {/each}
</ol>
{#if visit.writable}
  <div class="flex flex-wrap gap-2 py-1">
    {#each tables.all?.fans ?? [] as fan (fan.code)}
      <button
        type="button"
        class="btn btn-sm"
        disabled={fans.length >= 12}
        onclick={() => set({ fans: [...fans, { kind: fan.code, flowM3S: null }] })}>+ {fan.name}</button
      >
    {/each}
  </div>
{/if}

<Reckoning
  id="cold-reckoning"
  {reckoner}
  assumed={[...(reckoner.answer?.start.assumed ?? []), ...(reckoner.answer?.house?.assumed ?? [])]}
/>
