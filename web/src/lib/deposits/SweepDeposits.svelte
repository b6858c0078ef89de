<script lang="ts">
  import type { Schema } from "../api/client";
  import Choices from "../components/Choices.svelte";
  import NumberField from "../components/NumberField.svelte";
  import { tables, type Quantity } from "../tables.svelte";
  import Reckoning from "../visits/Reckoning.svelte";
  import { pieceId, type Step, type VisitState } from "../visits/visit.svelte";
  import SweepOrder from "./SweepOrder.svelte";
  import SweepWhatIfs from "./SweepWhatIfs.svelte";
  import ThicknessGauge from "./ThicknessGauge.svelte";

  let { visit, step }: { visit: VisitState; step: Step } = $props();

  type Record = Schema["SweepRecord"];
  type Entry = Schema["DepositEntry"];
  const station = $derived(visit.station<Record, Schema["SweepAnswer"]>(step.code, "deposits")!);
  const record = $derived(station.entry);
  const pieces = $derived(visit.doc.flue.flue.segments ?? []);
  const labels = $derived(pieces.map((s) => s.label ?? ""));
  const ids = $derived(pieces.map(pieceId));
  const atCap = $derived(visit.segment >= labels.length);
  const label = $derived(labels[visit.segment] ?? "cap and screen");
  const entry = $derived<Entry>((atCap ? record.cap : record.found?.[ids[visit.segment]!]) ?? {});
  const path = $derived(atCap ? "cap" : `found.${label}`);
  const reckoner = $derived(station.reckoner);
  const here = $derived(reckoner.answer?.deposits.segments[visit.segment] ?? null);
  const { errors } = $derived(station);
  const set = (change: Partial<Record>) => station.set(change);
  const wood = $derived(visit.stations["arrive/wood"]?.saver.version);
  let shown = $state<"before" | "after">("before");

  $effect(() => {
    // The wood found on arrival is part of the question; the server has it.
    void wood;
    station.reckon(undefined, true);
  });

  $effect(() => {
    visit.afterMm = shown === "after" ? (reckoner.answer?.afterMm ?? null) : null;
    return () => (visit.afterMm = null);
  });

  // A stage without a thickness is a thin film; a thickness without a stage is powder, until said otherwise.
  function setEntry(change: Partial<Entry>) {
    const whole = { stage: 1, mm: 0.5, ...entry, ...change };
    set(atCap ? { cap: whole } : { found: { ...record.found, [ids[visit.segment]!]: whole } });
  }

  // What was entered by mistake is taken back whole.
  const takeBack = () => (atCap ? set({ cap: null }) : keep((id) => id !== ids[visit.segment]));
  const keep = (stays: (id: string) => boolean) =>
    set({ found: Object.fromEntries(Object.entries(record.found ?? {}).filter(([id]) => stays(id))) });
  /** Found in pieces that were taken out of the flue since. */
  const gone = $derived(Object.keys(record.found ?? {}).filter((id) => !ids.includes(id)));

  type Fell = NonNullable<Record["fell"]>[number];
  function toggleFell(code: Fell, there: boolean) {
    const fell = (record.fell ?? []).filter((f) => f !== code);
    set({ fell: there ? [...fell, code] : fell });
  }

  const stages = [
    { code: "1", name: "1 powder" },
    { code: "2", name: "2 flakes" },
    { code: "3", name: "3 tar, glaze" },
  ] as const;
  const glaze = [
    { code: "none", name: "No glaze left" },
    { code: "stays", name: "Glaze stays" },
  ] as const;
  const pictures = [
    { code: "before", name: "Before" },
    { code: "after", name: "After" },
  ] as const;
  // Thicknesses and litres are entered in m and m³, as every field is.
  const fields: { field: "sweptL" | "leftMm" | "minutes"; label: string; quantity: Quantity; per: number }[] = [
    { field: "sweptL", label: "Came down", quantity: "small-volume", per: 1000 },
    { field: "leftMm", label: "Left at the worst spot", quantity: "thickness", per: 1000 },
    { field: "minutes", label: "Minutes it took", quantity: "count", per: 1 },
  ];
  const scaled = (value: number | null | undefined, per: number) => (value == null ? null : value / per);
</script>

<section aria-labelledby="deposits-found">
  <h3 id="deposits-found" class="mb-2">Deposits, before the sweep</h3>
  <div class="flex flex-wrap gap-1.5" role="group" aria-label="Segment">
    {#each [...labels, "cap and screen"] as name, i (i)}
      {@const found = i < labels.length ? record.found?.[ids[i]!] : record.cap}
      <button
        type="button"
        class="btn btn-sm min-h-11 {i === visit.segment ? 'outline-base-content outline-2 -outline-offset-2' : ''}"
        aria-pressed={i === visit.segment}
        onclick={() => (visit.segment = i)}
        >{name}{found ? `, ${tables.show((found.worstMm ?? found.mm ?? 0) / 1000, "thickness")}` : ""}</button
      >
    {/each}
  </div>
  <div class="mt-4">
    <Choices
      label="Stage, {label}"
      options={stages}
      value={entry.stage == null ? null : (String(entry.stage) as "1")}
      disabled={!visit.writable}
      onchange={(stage) => setEntry({ stage: Number(stage) })}
    />
  </div>
  <div class="mt-4 space-y-4">
    <ThicknessGauge
      label="Typical, {label}"
      mm={entry.mm ?? null}
      errors={errors(`${path}.mm`)}
      disabled={!visit.writable}
      onchange={(mm) => setEntry({ mm })}
    />
    <ThicknessGauge
      label="Worst spot, {label}"
      mm={entry.worstMm ?? null}
      errors={errors(`${path}.worstMm`)}
      disabled={!visit.writable}
      onchange={(worstMm) => setEntry({ worstMm })}
    />
  </div>
  <div class="mt-4">
    <Choices
      label="How it was seen, {label}"
      options={tables.words("howSeen")}
      value={entry.howSeen ?? null}
      disabled={!visit.writable}
      onchange={(howSeen) => setEntry({ howSeen: howSeen as Entry["howSeen"] })}
    />
  </div>
  {#if visit.writable && (atCap ? record.cap : record.found?.[ids[visit.segment]!])}
    <button type="button" class="btn btn-sm mt-2 min-h-11" onclick={takeBack}>Take {label} back</button>
  {/if}
  {#if gone.length > 0}
    <p class="text-error mt-2">
      {errors("found")[0] ?? "Something was found in a piece that no longer stands in this flue."}
      {#if visit.writable}<button
          type="button"
          class="btn btn-sm min-h-11"
          onclick={() => keep((id) => ids.includes(id))}>Take it back</button
        >{/if}
    </p>
  {/if}
  {#if here}
    <p class="mt-2 text-sm">
      {#if here.massKg > 0}
        Holds <span class="computed">{tables.show(here.massKg, "mass")}</span>,
        <span class="computed">{tables.show(here.volumeL / 1000, "small-volume")}</span> on the wall, and leaves
        <span class="computed">{tables.show(here.freeAreaShare, "share")}</span> of the section free.
      {/if}
      Its wall stands at <span class="computed">{tables.show(here.wallC, "temperature")}</span>: the model expects stage
      <span class="computed">{here.likelyStage}</span>.
    </p>
  {/if}
</section>
{#if reckoner.answer}
  <SweepOrder
    plan={reckoner.answer.plan}
    done={record.done ?? []}
    errors={errors("done")}
    disabled={!visit.writable}
    onchange={(done) => set({ done })}
  />
{/if}
<section aria-labelledby="after-sweep">
  <div class="mt-7 mb-2 flex flex-wrap items-center justify-between gap-2">
    <h3 id="after-sweep">After the sweep</h3>
    {#if reckoner.answer?.afterMm}
      <Choices label="The drawing shows" options={pictures} value={shown} onchange={(picked) => (shown = picked)} />
    {/if}
  </div>
  <div class="grid grid-cols-3 gap-x-4 gap-y-4 max-sm:grid-cols-1">
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
  <div class="mt-4 flex flex-wrap items-center gap-x-4 gap-y-2" role="group" aria-label="What fell">
    {#each tables.words("fallen") as { code, name } (code)}
      <label class="flex items-center gap-2"
        ><input
          type="checkbox"
          class="checkbox"
          checked={record.fell?.some((f) => f === code) ?? false}
          disabled={!visit.writable}
          onchange={(e) => toggleFell(code as Fell, e.currentTarget.checked)}
        />
        {name.toLowerCase()}</label
      >
    {/each}
  </div>
  <div class="mt-4 flex flex-wrap items-center gap-x-4 gap-y-2">
    <Choices
      label="Looked through from end to end"
      options={tables.words("seenThrough")}
      value={record.seenThrough ?? null}
      disabled={!visit.writable}
      onchange={(seenThrough) => set({ seenThrough: seenThrough as Record["seenThrough"] })}
    />
    <Choices
      label="Glaze on a wall after it"
      options={glaze}
      value={record.glazeLeft == null ? null : record.glazeLeft ? "stays" : "none"}
      disabled={!visit.writable}
      onchange={(picked) => set({ glazeLeft: picked === "stays" })}
    />
  </div>
</section>
<Reckoning
  {reckoner}
  assumed={[...(reckoner.answer?.deposits.assumed ?? []), ...(reckoner.answer?.forecast.assumed ?? [])]}
>
  {#snippet more()}{#if reckoner.answer}<SweepWhatIfs whatIfs={reckoner.answer.whatIfs} />{/if}{/snippet}
</Reckoning>
