<script lang="ts">
  import { api, type Schema } from "../api/client";
  import Choice from "../components/Choice.svelte";
  import NumberField from "../components/NumberField.svelte";
  import Reckoning from "../flue/Reckoning.svelte";
  import { Reckoner } from "../flue/reckoner.svelte";
  import type { VisitState } from "../service/visit.svelte";
  import { settings } from "../settings.svelte";
  import { tables, type Quantity } from "../tables.svelte";
  import ThicknessGauge from "./ThicknessGauge.svelte";

  let { visit }: { visit: VisitState } = $props();

  type Record = Schema["SweepRecord"];
  type Entry = Schema["DepositEntry"];
  const saver = $derived(visit.steps["sweep"]!);
  const record = $derived<Record>(saver.value.sweep?.record ?? {});
  const labels = $derived((visit.doc.flue.flue.segments ?? []).map((s) => s.label ?? ""));
  const label = $derived(labels[Math.min(visit.segment, labels.length - 1)] ?? "");
  const entry = $derived<Entry>(record.found?.[label] ?? {});
  const reckoner = new Reckoner<Schema["SweepAnswer"]>();
  const errors = (field: string) => reckoner.refused[field] ?? saver.errors[field] ?? [];

  $effect(() => {
    const body = $state.snapshot(record) as Record;
    const params = { path: { id: visit.id }, query: { units: settings.system } };
    void reckoner.ask(api.POST("/api/visits/{id}/sweep", { params, body }));
  });

  function set(change: Partial<Record>) {
    saver.value.sweep = { ...saver.value.sweep, record: { ...record, ...change } };
    saver.changed();
  }

  // A stage without a thickness is a thin film; a thickness without a stage is powder, until said otherwise.
  function setEntry(change: Partial<Entry>) {
    const whole = { stage: 1, mm: 0.5, ...entry, ...change };
    set({ found: { ...record.found, [label]: whole } });
  }

  const stages = [
    { code: "1", name: "1 powder" },
    { code: "2", name: "2 flakes" },
    { code: "3", name: "3 tar, glaze" },
  ] as const;
  const habits = [
    { code: "hot", name: "Hot fires" },
    { code: "mixed", name: "Mixed" },
    { code: "slow", name: "Slow nights" },
  ] as const;
  // Thicknesses and litres are entered in m and m³, as every field is.
  const fields: {
    field: "sweptL" | "leftMm" | "woodKgPerYear" | "moistureWet";
    label: string;
    quantity: Quantity;
    per: number;
  }[] = [
    { field: "sweptL", label: "Came down", quantity: "small-volume", per: 1000 },
    { field: "leftMm", label: "Left at the worst spot", quantity: "thickness", per: 1000 },
    { field: "woodKgPerYear", label: "Wood a year", quantity: "wood", per: 1 },
    { field: "moistureWet", label: "Moisture, wet basis", quantity: "share", per: 1 },
  ];
  const scaled = (value: number | null | undefined, per: number) => (value == null ? null : value / per);
</script>

<section aria-labelledby="deposits-found">
  <h3 id="deposits-found" class="mt-1">Deposits, before the sweep</h3>
  <div class="flex flex-wrap gap-1.5 py-1" role="group" aria-label="Segment">
    {#each labels as name, i (i)}
      {@const found = record.found?.[name]}
      <button
        type="button"
        class="btn btn-sm {i === visit.segment ? 'btn-neutral' : ''}"
        aria-pressed={i === visit.segment}
        onclick={() => (visit.segment = i)}
        >{name}{found ? `, ${tables.show((found.worstMm ?? found.mm ?? 0) / 1000, "thickness")}` : ""}</button
      >
    {/each}
  </div>
  <Choice
    label="Stage, {label}"
    options={stages}
    value={entry.stage == null ? null : (String(entry.stage) as "1")}
    disabled={!visit.writable}
    onchange={(stage) => setEntry({ stage: Number(stage) })}
  />
  <ThicknessGauge
    label="Typical, {label}"
    mm={entry.mm ?? null}
    errors={errors(`found.${label}.mm`)}
    disabled={!visit.writable}
    onchange={(mm) => setEntry({ mm })}
  />
  <ThicknessGauge
    label="Worst spot, {label}"
    mm={entry.worstMm ?? null}
    errors={errors(`found.${label}.worstMm`)}
    disabled={!visit.writable}
    onchange={(worstMm) => setEntry({ worstMm })}
  />
  <h3 class="mt-2">The sweep and the wood</h3>
  <div class="grid grid-cols-2 gap-x-4 max-sm:grid-cols-1">
    {#each fields as f (f.field)}
      <NumberField
        id={f.field}
        label={f.label}
        quantity={f.quantity}
        value={scaled(record[f.field], f.per)}
        errors={errors(f.field)}
        disabled={!visit.writable}
        onchange={(value) => set({ [f.field]: value === null ? null : value * f.per })}
      />
    {/each}
  </div>
  <div class="flex flex-wrap items-center gap-x-4 gap-y-1 py-1">
    <Choice
      label="How the household burns"
      options={habits}
      value={(record.habit ?? "mixed") as "mixed"}
      disabled={!visit.writable}
      onchange={(habit) => set({ habit })}
    />
    <label class="flex items-center gap-2"
      ><input
        type="checkbox"
        class="checkbox"
        checked={record.glazeLeft ?? false}
        disabled={!visit.writable}
        onchange={(e) => set({ glazeLeft: e.currentTarget.checked })}
      /> glaze stayed on a wall</label
    >
  </div>
</section>
<Reckoning
  id="sweep-reckoning"
  {reckoner}
  assumed={[...(reckoner.answer?.deposits.assumed ?? []), ...(reckoner.answer?.forecast.assumed ?? [])]}
/>
