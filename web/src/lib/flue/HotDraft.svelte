<script lang="ts">
  import { api, type Schema } from "../api/client";
  import Choice from "../components/Choice.svelte";
  import NumberField from "../components/NumberField.svelte";
  import SentenceLine from "../components/SentenceLine.svelte";
  import type { HotReading, VisitState } from "../service/visit.svelte";
  import { settings } from "../settings.svelte";
  import { tables, type Quantity } from "../tables.svelte";
  import AssumedList from "./AssumedList.svelte";
  import LiveGauge from "../instruments/LiveGauge.svelte";
  import DraftBar from "./DraftBar.svelte";
  import { levels, type Level } from "./levels";
  import HouseTests from "./HouseTests.svelte";
  import { Reckoner } from "./reckoner.svelte";

  let { visit, onnext }: { visit: VisitState; onnext: () => void } = $props();

  const bys = [
    { code: "probe", name: "probe" },
    { code: "surface", name: "pipe surface" },
  ] as const;

  const saver = $derived(visit.steps["hot-test"]!);
  let level = $state<Level>("normal");
  const entered = $derived(saver.value.hotTest?.readings.find((r) => r.level === level));
  const reading = $derived<HotReading>(entered ?? { level });
  const earlier = $derived(visit.doc.earlier?.readings.find((r) => r.level === level)?.entered);
  const bare = $derived(visit.doc.flue.flue.segments?.[0]?.construction === "single-wall-steel");

  const reckoner = new Reckoner<Schema["HotDraftAnswer"]>();
  const reckoned = $derived(reckoner.answer);
  // The refusal of a save speaks of the whole station; that of the reckoning of what is on screen.
  const errors = (field: string) => reckoner.refused[field] ?? saver.errors[field] ?? [];

  $effect(() => {
    const hotTest = ($state.snapshot(saver.value.hotTest) ?? { readings: [] }) as Schema["HotTest"];
    const params = { path: { id: visit.id }, query: { units: settings.system } };
    void reckoner
      .ask(api.POST("/api/visits/{id}/draft", { params, body: { level, hotTest } }))
      .then(() => (visit.reckoned = reckoner.answer));
  });

  type Field = "draftPa" | "gasC" | "outdoorC" | "housePa" | "roomC" | "burnKgH";
  const first: { field: Field; label: string; quantity: Quantity }[] = $derived([
    { field: "draftPa", label: "Draft at the collar", quantity: "draft" },
    {
      field: "gasC",
      label: `Flue gas, ${reading.gasBy === "surface" ? "pipe surface" : "probe"}`,
      quantity: "temperature",
    },
    { field: "outdoorC", label: "Outdoors", quantity: "temperature" },
    { field: "housePa", label: "Room against outdoors", quantity: "draft" },
  ]);
  const further: typeof first = [
    { field: "roomC", label: "Room", quantity: "temperature" },
    { field: "burnKgH", label: "Wood weighed in an hour", quantity: "burn-rate" },
  ];

  function type(field: Field, value: number | null) {
    if (field === "housePa") set({ housePa: value, houseMeasured: value === null ? null : true });
    else if (field === "draftPa") set({ draftPa: value, run: null });
    else set({ [field]: value });
  }

  const blank: HotReading = { level: "normal" };

  function set(change: Partial<HotReading>) {
    const rest = saver.value.hotTest?.readings.filter((r) => r.level !== level) ?? [];
    // What holds for the whole test need not be typed again at the next fire.
    const last = rest[rest.length - 1] ?? blank;
    const base = entered ?? {
      level,
      outdoorC: last.outdoorC ?? null,
      roomC: last.roomC ?? null,
      gasBy: last.gasBy ?? null,
    };
    saver.value.hotTest = { ...saver.value.hotTest, readings: [...rest, { ...base, ...change }] };
    saver.changed();
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
    if (values.coPpm !== undefined) setCo(values.coPpm);
  }

  function setCo(coPpm: number | null) {
    saver.value.hotTest = { readings: [], ...saver.value.hotTest, coPpm };
    saver.changed();
  }

  function keepAsFinding() {
    if (!reckoned || reading.draftPa == null) return;
    const { answer } = reckoned;
    const finding = visit.finding("draft");
    finding.value.condition = answer.verdict === "as-expected" ? "sound" : "wearing";
    finding.value.note = `At ${level} fire ${tables.show(reading.draftPa, "draft")} where ${tables.range(answer.lowPa, answer.highPa, "draft")} is expected.`;
    finding.changed();
  }

  const last = (value: number | null | undefined) => (visit.doc.earlier ? (value ?? null) : undefined);
</script>

<div class="mt-2"><Choice label="Fire" options={levels} value={level} onchange={(l) => (level = l)} /></div>

{#snippet number(entry: (typeof first)[number])}
  <NumberField
    id={entry.field}
    label={entry.label}
    quantity={entry.quantity}
    value={reading[entry.field] ?? null}
    last={last(earlier?.[entry.field])}
    errors={errors(entry.field)}
    disabled={!visit.writable}
    onchange={(value) => type(entry.field, value)}
  />
{/snippet}

{#if visit.writable}<LiveGauge visitId={visit.id} onhold={hold} />{/if}
<div class="mt-3 grid grid-cols-2 gap-x-4 max-sm:grid-cols-1">
  {#each first as entry (entry.field)}{@render number(entry)}{/each}
</div>
{#snippet more()}
  <div class="grid grid-cols-2 gap-x-4 max-sm:grid-cols-1">
    {#each further as entry (entry.field)}{@render number(entry)}{/each}
    <NumberField
      id="coPpm"
      label="CO in the room"
      quantity="concentration"
      value={saver.value.hotTest?.coPpm ?? null}
      errors={errors("coPpm")}
      disabled={!visit.writable}
      onchange={setCo}
    />
    <NumberField
      id="o2DryPct"
      label="O₂ in the flue gas, dry"
      quantity="share"
      value={reading.o2DryPct == null ? null : reading.o2DryPct / 100}
      errors={errors("o2DryPct")}
      disabled={!visit.writable}
      onchange={(share) => set({ o2DryPct: share === null ? null : share * 100 })}
    />
  </div>
  {#if bare}
    <p class="text-quiet text-sm">Flue gas read with</p>
    <Choice
      label="Flue gas read with"
      options={bys}
      value={reading.gasBy === "surface" ? "surface" : "probe"}
      disabled={!visit.writable}
      onchange={(gasBy) => set({ gasBy })}
    />
  {/if}
{/snippet}
<HouseTests {visit} {level} {errors} {more} />

<section aria-labelledby="reckoning" class="border-base-content border-t-2 pt-2" aria-live="polite">
  <h3 id="reckoning">The reckoning</h3>
  {#if reckoner.away}<p class="text-quiet">{reckoner.away}</p>{/if}
  {#if reckoned}
    {@const { answer, reckoning } = reckoned}
    <DraftBar {answer} readingPa={reading.draftPa ?? null} />
    <div class="space-y-1">
      {#each reckoning.questions as question (question.field)}
        <div class="border-primary bg-base-200 flex flex-wrap items-center gap-2 border-l-4 px-3 py-2">
          <p class="grow">{question.sentence}</p>
          {#if question.suggested != null}
            <button class="btn btn-sm" onclick={() => set({ draftPa: question.suggested })}>Yes, take it</button>
          {/if}
        </div>
      {/each}
      {#each reckoning.sentences as sentence, i (i)}<SentenceLine {sentence} />{/each}
      {#if visit.doc.coMeaning}<p>{visit.doc.coMeaning}</p>{/if}
    </div>
    {#if reckoning.explanations.length}
      <div class="border-base-300 divide-base-300 mt-2 grid divide-x rounded-lg border sm:grid-cols-3">
        {#each reckoning.explanations as way (way.name)}
          <div class="px-3 py-2 {way.state === 'named' ? 'border-primary border-t-4' : ''}">
            <h4 class="font-display font-semibold {way.state === 'ruled-out' ? 'text-quiet line-through' : ''}">
              {way.name}{#if way.state === "named"}<span class="ml-2 text-sm">named</span>{/if}
            </h4>
            <p class="computed text-lg leading-tight">{way.figure}</p>
            <p class="text-quiet text-sm">{way.test}</p>
          </div>
        {/each}
      </div>
    {/if}
    {#if reckoning.nextTest}
      <p class="mt-2"><strong>{reckoning.nextTest.text}.</strong> {reckoning.nextTest.why}</p>
    {/if}
    <AssumedList assumed={answer.assumed} />
  {:else if Object.keys(reckoner.refused).length}
    <p class="text-quiet">The reckoning waits for entries it can use.</p>
  {/if}
  {#if visit.writable}
    <div class="bg-base-100 sticky bottom-0 flex flex-wrap gap-2 py-3">
      <button class="btn btn-primary" onclick={onnext}>Done, next step</button>
      <button class="btn" disabled={!reckoned || reading.draftPa == null} onclick={keepAsFinding}
        >Keep as finding</button
      >
    </div>
  {/if}
</section>
