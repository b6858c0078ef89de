<script lang="ts">
  import { page } from "$app/state";
  import { api, byField, failure, page as pageOf, reply, type Schema } from "$lib/api/client";
  import Failure from "$lib/components/Failure.svelte";
  import Choices from "$lib/components/Choices.svelte";
  import SentenceLine from "$lib/components/SentenceLine.svelte";
  import StopBanner from "$lib/components/StopBanner.svelte";
  import Elevation, { layers, type Layer } from "$lib/drawing/Elevation.svelte";
  import { after } from "$lib/drawing/geometry";
  import { drawings, measureStove, type Drawn } from "$lib/drawing/measures";
  import StoveSection, { sectionLayers, type SectionLayer } from "$lib/drawing/StoveSection.svelte";
  import AssumedList from "$lib/components/AssumedList.svelte";
  import FlueLife from "$lib/deposits/FlueLife.svelte";
  import FireAndWeather from "$lib/flue/FireAndWeather.svelte";
  import type { Level } from "$lib/flue/levels";
  import Remarks from "$lib/flue/Remarks.svelte";
  import FittedParts from "$lib/stock/FittedParts.svelte";
  import DraftYear from "$lib/flue/DraftYear.svelte";
  import WhatIfs from "$lib/flue/WhatIfs.svelte";
  import DraftHistory from "$lib/flue/DraftHistory.svelte";
  import { keys } from "$lib/keys.svelte";
  import StopRecord from "$lib/service/StopRecord.svelte";
  import DueTasks from "$lib/service/DueTasks.svelte";
  import { settings } from "$lib/settings.svelte";
  import { day } from "$lib/dates";
  import { tables } from "$lib/tables.svelte";

  const id = $derived(page.params.id!);
  let doc = $state<Schema["StoveAnswer"] | null>(null);
  let failed = $state("");
  let layer = $state<Layer>("pull");
  let drawn = $state<Drawn>("house");
  let sectionLayer = $state<SectionLayer>("condition");
  let level = $state<Level>("normal");
  let outdoorC = $state<number | null>(null);
  let expected = $state<Schema["StoveDraftAnswer"] | null>(null);
  let refused = $state<string[]>([]);
  let month = $state(0);

  async function load() {
    const answer = await pageOf(
      `stove.${id}`,
      api.GET("/api/stoves/{id}", { params: { path: { id }, query: { units: settings.system } } }),
    );
    failed = failure(answer);
    if (answer.kind === "ok") doc = answer.data;
  }
  $effect(() => void load());

  $effect(() => {
    const params = { path: { id }, query: { units: settings.system } };
    void reply(api.POST("/api/stoves/{id}/draft", { params, body: { level, outdoorC } })).then((answer) => {
      refused = Object.values(byField(answer)).flat();
      if (answer.kind === "ok") expected = answer.data;
    });
  });

  $effect(() => {
    keys.page = [
      { key: "d", does: "turn the drawing", run: turn },
      { key: "v", does: "house or stove", run: () => (drawn = drawn === "house" ? "stove" : "house") },
    ];
    return () => (keys.page = []);
  });

  function turn() {
    if (drawn === "house") layer = after(layers, layer);
    else sectionLayer = after(sectionLayers, sectionLayer);
  }

  async function measure(field: string, m: number | null) {
    const answer = await measureStove(id, field, m);
    if (answer.section && doc) doc.section = answer.section;
    return answer.refused;
  }

  let past = $state<string[]>([]);
  // A part that is past its life is marked until somebody looked at it.
  const finding = (part: string) =>
    doc?.findings.find((f) => f.part === part)?.condition ?? (past.includes(part) ? "wearing" : null);
</script>

<svelte:head><title>{doc ? `${doc.house.street}, ${doc.house.place}` : "Stove"} · Grate</title></svelte:head>

<Failure sentence={failed} />
{#if doc}
  {@const stove = doc.stove}
  <StopBanner stops={doc.stops} onclear={doc.mayClear ? load : undefined} />
  <header class="border-base-300 flex flex-wrap items-baseline gap-x-4 border-b px-6 py-3">
    <h1 class="text-2xl">{doc.house.street}, {doc.house.place}</h1>
    <p class="text-quiet">
      <a class="link" href="/households/{doc.customer.id}">{doc.customer.name}</a>{doc.customer.phone
        ? ` · ${doc.customer.phone}`
        : ""}
    </p>
  </header>
  <div class="grid grid-cols-[minmax(0,1fr)] gap-6 p-6 max-sm:p-3 lg:grid-cols-[minmax(0,2fr)_minmax(0,3fr)]">
    <div class="lg:sticky lg:top-4 lg:self-start">
      <div class="flex flex-wrap gap-2">
        <Choices label="What is drawn" options={drawings} value={drawn} onchange={(d) => (drawn = d)} />
        {#if drawn === "house"}
          <Choices label="Layer of the drawing" options={layers} value={layer} onchange={(l) => (layer = l)} />
        {:else}
          <Choices
            label="Layer of the drawing"
            options={sectionLayers}
            value={sectionLayer}
            onchange={(l) => (sectionLayer = l)}
          />
        {/if}
      </div>
      {#if drawn === "stove"}
        <StoveSection
          section={doc.section}
          model={stove.model}
          layer={sectionLayer}
          conditionOf={finding}
          onmeasure={doc.mayMeasure ? measure : undefined}
        />
      {:else}
        <Elevation
          {stove}
          house={doc.house}
          outline={doc.outline}
          flue={doc.flue.flue}
          layout={doc.layout}
          {layer}
          conditionOf={finding}
          answer={expected?.answer ?? null}
          depositsMm={doc.today?.segmentsMm[month] ?? null}
          fire={doc.stops.every((s) => s.stop.clearedAt)}
          height={560}
        />
      {/if}
    </div>
    <div class="space-y-6">
      <section aria-labelledby="facts">
        <h2 id="facts" class="text-lg">{stove.model}</h2>
        <p>
          {tables.kindName(stove.kind, stove.combustor)}, {stove.nominalKw} kW, {stove.year}, {stove.room} · label
          {stove.labelMinPa == null
            ? "without draft"
            : `${tables.range(stove.labelMinPa, stove.labelMaxPa ?? 30, "draft")}`}
        </p>
        <p class="text-quiet text-sm">
          Flue version {doc.flue.number}, since {day(doc.flue.validFrom)}: {doc.flue.flue.segments
            ?.map((s) => s.label)
            .join(", ")}. Altitude
          {tables.show(doc.house.altitudeM, "altitude")}.
          <a class="link" href="/stoves/{stove.id}/flue">Change the flue</a>
        </p>
        <Remarks remarks={doc.remarks} />
      </section>

      <section aria-labelledby="due">
        <h2 id="due" class="text-lg">What is due</h2>
        <DueTasks due={doc.due} />
      </section>

      <FittedParts stoveId={id} onpast={(parts) => (past = parts)} />

      <section aria-labelledby="now">
        <h2 id="now" class="mb-1 text-lg">What it should pull</h2>
        <FireAndWeather bind:level bind:outdoorC errors={refused} />
        {#if expected}
          {#each expected.reckoning.sentences as sentence, i (i)}<SentenceLine {sentence} />{/each}
          <AssumedList assumed={expected.answer.assumed} />
          <h3 class="mt-2">What if</h3>
          <WhatIfs whatIfs={expected.whatIfs} />
        {/if}
      </section>

      {#if doc.today}
        <section aria-labelledby="sweep">
          <h2 id="sweep" class="text-lg">Deposits and the next sweep</h2>
          <FlueLife flue={doc.today} today={doc.day} visits={doc.visits} bind:month />
        </section>
      {/if}

      <section aria-labelledby="year">
        <h2 id="year" class="text-lg">Low fire over the year</h2>
        <DraftYear year={doc.year} needPa={stove.labelMinPa ?? 12} />
      </section>

      <section aria-labelledby="history">
        <h2 id="history" class="text-lg">Draft, measured against expected</h2>
        {#if doc.readings.length}
          <DraftHistory readings={doc.readings} needPa={stove.labelMinPa ?? null} />
        {:else}
          <p class="text-quiet">No hot reading yet. The first one in a signed visit starts this picture.</p>
        {/if}
      </section>

      {#if doc.stops.length}
        <section aria-labelledby="stops">
          <h2 id="stops" class="text-lg">Stops</h2>
          {#each doc.stops as notice (notice.stop.id)}<StopRecord {notice} />{/each}
        </section>
      {/if}

      <section aria-labelledby="visits">
        <h2 id="visits" class="text-lg">Visits</h2>
        <ul>
          {#each doc.visits as { row: visit, day: of } (visit.id)}
            <li class="border-base-300 flex flex-wrap gap-x-3 border-b py-1.5">
              <a class="link" href="/visits/{visit.id}">{day(of)}</a>
              <span>{visit.purpose}</span><span class="text-quiet">{visit.technician}</span>
              <span class="text-quiet ml-auto">{visit.state}</span>
              {#if visit.state === "signed"}<a class="link" href="/report/{visit.id}">report</a>{/if}
            </li>
          {/each}
        </ul>
      </section>
    </div>
  </div>
{:else if !failed}
  <p class="p-6"><span class="loading loading-dots" aria-label="Loading"></span></p>
{/if}
