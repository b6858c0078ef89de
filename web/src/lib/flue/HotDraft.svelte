<script lang="ts">
  import type { Schema } from "../api/client";
  import Choices from "../components/Choices.svelte";
  import NumberField from "../components/NumberField.svelte";
  import LiveGauge from "../instruments/LiveGauge.svelte";
  import { tables, type Quantity } from "../tables.svelte";
  import Reckoning from "../visits/Reckoning.svelte";
  import type { Step, VisitState } from "../visits/visit.svelte";
  import DraftBar from "./DraftBar.svelte";
  import HouseTests from "./HouseTests.svelte";
  import { levels, type Level } from "./levels";

  let { visit, step }: { visit: VisitState; step: Step } = $props();

  type HotTest = Schema["HotTest"];
  type HotReading = Schema["HotReading"];
  const station = $derived(visit.station<HotTest, Schema["HotTestAnswer"]>(step.code, "hot-draft")!);
  const readings = $derived(station.entry.readings ?? []);
  let level = $state<Level>("normal");
  const entered = $derived(readings.find((r) => r.level === level));
  const reading = $derived<HotReading>(entered ?? { level });
  const earlier = $derived(station.earlier?.readings?.find((r) => r.level === level));
  const bare = $derived(visit.doc.flue.flue.segments?.[0]?.construction === "single-wall-steel");
  const fire = $derived(station.answer?.fires.find((f) => f.level === level) ?? null);

  $effect(() => {
    // The fire on screen is asked about though nothing was read at it yet.
    const entry = $state.snapshot(station.entry) as HotTest;
    const asked = [...(entry.readings ?? [])];
    if (!asked.some((r) => r.level === level)) asked.push({ level });
    station.reckon({ ...entry, readings: asked });
  });
  $effect(() => {
    visit.draft = fire ? { answer: fire.answer, readingPa: fire.readingPa ?? null } : null;
    return () => (visit.draft = null);
  });

  type Field = "draftPa" | "gasC" | "outdoorC" | "housePa" | "roomC" | "burnKgH";
  const first: { field: Field; label: string; quantity: Quantity; stands?: string }[] = $derived([
    { field: "draftPa", label: "Draft at the collar", quantity: "draft" },
    {
      field: "gasC",
      label: `Flue gas, ${tables.word("gasBy", reading.gasBy ?? "probe")}`,
      quantity: "temperature",
    },
    { field: "outdoorC", label: "Outdoors", quantity: "temperature", stands: "surroundings.outdoorC" },
    { field: "housePa", label: "Room against outdoors", quantity: "draft" },
  ]);
  const further: typeof first = [
    { field: "roomC", label: "Room", quantity: "temperature", stands: "surroundings.indoorC" },
    { field: "burnKgH", label: "Wood weighed in an hour", quantity: "burn-rate", stands: "fire.burnKgH" },
  ];

  // What was typed elsewhere is not asked again: it stands in grey with where it comes from.
  function standsIn(field: string | undefined): string | null {
    const found = field ? fire?.answer.assumed.filter((a) => a.field === field).at(-1) : undefined;
    const name = field?.endsWith("burnKgH") ? "burn-rate" : "temperature";
    return found && typeof found.value === "number" ? `${tables.show(found.value, name)}, ${found.reason}` : null;
  }

  function type(field: Field, value: number | null) {
    if (field === "housePa") set({ housePa: value, houseMeasured: value === null ? null : true });
    else if (field === "draftPa") set({ draftPa: value, run: null });
    else set({ [field]: value });
  }

  function set(change: Partial<HotReading>) {
    const rest = readings.filter((r) => r.level !== level);
    // What holds for the whole test need not be typed again at the next fire.
    const last = rest[rest.length - 1];
    const base = entered ?? {
      level,
      outdoorC: last?.outdoorC ?? null,
      roomC: last?.roomC ?? null,
      gasBy: last?.gasBy ?? null,
    };
    station.set({ readings: [...rest, { ...base, ...change }] });
  }

  // A held run fills every field an instrument reads; a number typed afterwards is a single reading again.
  function hold(run: Schema["Steadiness"], values: Record<string, number>) {
    set({
      draftPa: run.meanPa,
      run,
      ...(values.flueC === undefined ? {} : { gasC: values.flueC, gasBy: "probe" }),
      ...(values.roomC === undefined ? {} : { roomC: values.roomC }),
      ...(values.roomPa === undefined ? {} : { housePa: values.roomPa, houseMeasured: true }),
    });
    if (values.coPpm !== undefined) station.set({ coPpm: values.coPpm });
  }

  function keepAsFinding() {
    const kept = fire?.finding;
    if (!kept) return;
    const finding = visit.finding(step.code, "draft");
    Object.assign(finding.value, { condition: kept.condition, note: kept.note, stopCode: kept.stopCode ?? null });
    finding.changed();
  }

  const last = (value: number | null | undefined) => (station.earlier ? (value ?? null) : undefined);
</script>

<Choices label="Fire" options={levels()} value={level} onchange={(l) => (level = l)} />

{#snippet number(entry: (typeof first)[number])}
  <NumberField
    id={entry.field}
    label={entry.label}
    quantity={entry.quantity}
    value={reading[entry.field] ?? null}
    last={last(earlier?.[entry.field])}
    stands={reading[entry.field] == null ? standsIn(entry.stands) : null}
    errors={station.errors(entry.field)}
    disabled={!visit.writable}
    onchange={(value) => type(entry.field, value)}
  />
{/snippet}

{#if visit.writable}<LiveGauge visitId={visit.id} onhold={hold} />{/if}
<div class="mt-4 grid grid-cols-2 gap-x-4 gap-y-4 max-sm:grid-cols-1">
  {#each first as entry (entry.field)}{@render number(entry)}{/each}
</div>
{#snippet more()}
  <div class="grid grid-cols-2 gap-x-4 gap-y-4 max-sm:grid-cols-1">
    {#each further as entry (entry.field)}{@render number(entry)}{/each}
    <NumberField
      id="coPpm"
      label="CO in the room"
      quantity="concentration"
      value={station.entry.coPpm ?? null}
      errors={station.errors("coPpm")}
      disabled={!visit.writable}
      onchange={(coPpm) => station.set({ readings, coPpm })}
    />
    <NumberField
      id="o2DryPct"
      label="O₂ in the flue gas, dry"
      quantity="share"
      value={reading.o2DryPct == null ? null : reading.o2DryPct / 100}
      errors={station.errors("o2DryPct")}
      disabled={!visit.writable}
      onchange={(share) => set({ o2DryPct: share === null ? null : share * 100 })}
    />
  </div>
  {#if bare}
    <p class="text-quiet mt-4 mb-1 text-sm">Flue gas read with</p>
    <Choices
      label="Flue gas read with"
      options={tables.words("gasBy")}
      value={reading.gasBy ?? "probe"}
      disabled={!visit.writable}
      onchange={(gasBy) => set({ gasBy: gasBy as "probe" })}
    />
  {/if}
{/snippet}
<HouseTests {visit} {station} {level} {more} />

<Reckoning reckoner={station.reckoner} sentences={fire?.reckoning.sentences ?? []} assumed={fire?.answer.assumed ?? []}>
  {#snippet picture()}{#if fire}<DraftBar answer={fire.answer} readingPa={reading.draftPa ?? null} />{/if}{/snippet}
  {#snippet more()}
    {#if fire}
      {#each fire.reckoning.questions as question (question.field)}
        <div class="border-primary bg-base-200 mt-2 flex flex-wrap items-center gap-2 border-l-4 px-3 py-2">
          <p class="grow">{question.sentence}</p>
          {#if question.suggested != null}
            <button class="btn btn-sm min-h-11" onclick={() => set({ draftPa: question.suggested })}
              >Yes, take it</button
            >
          {/if}
        </div>
      {/each}
      {#if fire.reckoning.explanations.length}
        <div class="border-base-300 divide-base-300 mt-2 grid divide-x rounded-lg border sm:grid-cols-3">
          {#each fire.reckoning.explanations as way (way.name)}
            <div class="px-3 py-2 {way.state === 'named' ? 'border-base-content border-t-4' : ''}">
              <h4 class="font-display font-semibold {way.state === 'ruled-out' ? 'text-quiet line-through' : ''}">
                {way.name}{#if way.state === "named"}<span class="ml-2 text-sm">named</span>{/if}
              </h4>
              <p class="computed text-lg leading-tight">{way.figure}</p>
              <p class="text-quiet text-sm">{way.test}</p>
            </div>
          {/each}
        </div>
      {/if}
      {#if fire.reckoning.nextTest}
        <p class="mt-2"><strong>{fire.reckoning.nextTest.text}.</strong> {fire.reckoning.nextTest.why}</p>
      {/if}
    {/if}
  {/snippet}
</Reckoning>
{#if visit.writable}
  <button class="btn mt-2 min-h-11" disabled={!fire?.finding} onclick={keepAsFinding}>Keep as finding</button>
{/if}
