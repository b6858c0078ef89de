<script lang="ts">
  import { onDestroy, untrack } from "svelte";
  import { goto } from "$app/navigation";
  import { page } from "$app/state";
  import Choices from "$lib/components/Choices.svelte";
  import Failure from "$lib/components/Failure.svelte";
  import StopBanner from "$lib/components/StopBanner.svelte";
  import SuspectsTray from "$lib/diagnosis/SuspectsTray.svelte";
  import DuctDrawing from "$lib/air/DuctDrawing.svelte";
  import Elevation, { layers, type Layer } from "$lib/drawing/Elevation.svelte";
  import { after, type View } from "$lib/drawing/geometry";
  import RunDrawing from "$lib/burning/RunDrawing.svelte";
  import { drawings, measureStove, runDrawing, type Drawn } from "$lib/drawing/measures";
  import StoveSection, { sectionLayers, type SectionLayer } from "$lib/drawing/StoveSection.svelte";
  import { failure } from "$lib/api/client";
  import { live } from "$lib/instruments/live.svelte";
  import { keys } from "$lib/keys.svelte";
  import FindingsTray from "$lib/visits/FindingsTray.svelte";
  import Step from "$lib/visits/Step.svelte";
  import StepThread from "$lib/visits/StepThread.svelte";
  import { readVisit, VisitState } from "$lib/visits/visit.svelte";

  const id = $derived(page.params.id!);
  let visit = $state<VisitState | null>(null);
  let failed = $state("");
  let layer = $state<Layer>("condition");
  let drawn = $state<Drawn>("house");
  let sectionLayer = $state<SectionLayer>("condition");
  // The part of a suspect: lit up where it is drawn.
  let lit = $state("");
  const alongTheFlue = ["flue", "cap", "connector", "intake"];
  function light(part: string) {
    lit = part;
    if (!part) return;
    drawn = alongTheFlue.includes(part) ? "house" : "stove";
    [layer, sectionLayer] = ["condition", "condition"];
  }

  $effect(() => {
    void load(id);
  });

  // The instruments stay connected while the steps change, and go with the visit.
  onDestroy(() => live.close());

  async function load(visitId: string) {
    const answer = await readVisit(visitId);
    failed = failure(answer);
    if (answer.kind === "ok") visit = new VisitState(answer.data);
  }

  // The step stands in the address; without one it is the first that is open.
  const current = $derived(
    page.params.step ?? visit?.doc.steps.find((s) => !s.saved || s.saved.status === "open")?.code ?? "next",
  );
  const step = $derived(visit?.doc.steps.find((s) => s.code === current));
  $effect(() => {
    layer = layerOf(current);
    if (visit && page.params.step) untrack(focusHeading);
  });

  // While parts are taken in the drawing it shows the stove; afterwards what it showed before.
  $effect(() => {
    if (!visit?.takesPart) return;
    const before = untrack(() => drawn);
    [drawn, sectionLayer] = ["stove", "condition"];
    return () => (drawn = before);
  });

  // The run is drawn while its station is open and it burns.
  const running = $derived(Boolean(visit?.run?.samples.length || visit?.run?.answer.steps.some((s) => s.mark)));
  $effect(() => {
    if (!running) return;
    const before = untrack(() => drawn);
    drawn = "run";
    return () => (drawn = before === "run" ? "house" : before);
  });

  const layerOf = (code: string): Layer => (code === "hot-test" ? "pull" : code === "sweep" ? "deposits" : "condition");

  function focusHeading() {
    requestAnimationFrame(() => document.getElementById("step-name")?.focus({ preventScroll: true }));
  }

  function pickSegment(index: number) {
    if (visit) visit.segment = index;
  }

  function move(by: number) {
    const steps = visit?.doc.steps ?? [];
    const next = steps[steps.findIndex((s) => s.code === current) + by];
    if (next) void goto(`/visits/${id}/${next.code}`);
  }

  // A part opens the step it belongs to: the current one if it has it.
  async function openPart(part: string, at?: string) {
    const steps = visit?.doc.steps ?? [];
    const has = (code: string) => steps.find((s) => s.code === code)?.marks.some((m) => m.code === part);
    const to = at ?? (has(current) ? current : steps.find((s) => has(s.code))?.code);
    if (to && to !== current) await goto(`/visits/${id}/${to}`);
    requestAnimationFrame(() =>
      document.querySelector(`[data-part="${part}"] button`)?.scrollIntoView({ block: "center" }),
    );
  }

  function turn() {
    if (drawn === "house") layer = after(layers, layer);
    else sectionLayer = after(sectionLayers, sectionLayer);
  }

  async function measure(visit: VisitState, field: string, m: number | null) {
    const answer = await measureStove(visit.doc.stove.id, field, m);
    if (answer.section) visit.doc.section = answer.section;
    return answer.refused;
  }

  const partCondition = (part: string) => visit?.condition(part) ?? null;

  $effect(() => {
    keys.page = [
      { key: "PageDown", shown: "Page Down", does: "next step", run: () => move(1) },
      { key: "PageUp", shown: "Page Up", does: "step before", run: () => move(-1) },
      { key: "d", does: "turn the drawing", run: turn },
      { key: "v", does: "house or stove", run: () => (drawn = drawn === "house" ? "stove" : "house") },
      { key: "1…5", does: "condition of the part in focus", run: () => undefined },
    ];
    return () => (keys.page = []);
  });
</script>

{#snippet duct(view: View)}
  {#if visit?.duct}<DuctDrawing path={visit.duct} {view} onstretch={visit.stretchDuct} />{/if}
{/snippet}

{#snippet picture(visit: VisitState, label: string, width: number, height: number)}
  <div class="flex flex-wrap gap-2">
    <Choices
      label="{label}: what is drawn"
      options={visit.run ? [...drawings, runDrawing] : drawings}
      value={drawn}
      onchange={(d) => (drawn = d)}
    />
    {#if drawn === "run"}
      <!-- One drawing, no layers. -->
    {:else if drawn === "house"}
      <Choices {label} options={layers} value={layer} onchange={(l) => (layer = l)} />
    {:else}
      <Choices {label} options={sectionLayers} value={sectionLayer} onchange={(l) => (sectionLayer = l)} />
    {/if}
  </div>
  {#if drawn === "run" && visit.run}
    <RunDrawing {...visit.run} />
  {:else if drawn === "stove"}
    <StoveSection
      section={visit.doc.section}
      model={visit.doc.stove.model}
      layer={sectionLayer}
      conditionOf={partCondition}
      onpart={visit.takesPart ?? openPart}
      {lit}
      onseal={() => void goto(`/visits/${id}/back-together/seals`)}
      onmeasure={visit.writable ? (field, m) => measure(visit, field, m) : undefined}
      {width}
      {height}
    />
  {:else}
    <Elevation
      stove={visit.doc.stove}
      house={visit.doc.house}
      outline={visit.doc.outline}
      flue={visit.doc.flue.flue}
      layout={visit.doc.layout}
      {layer}
      conditionOf={partCondition}
      onpart={openPart}
      {lit}
      answer={visit.draft?.answer ?? null}
      readingPa={visit.draft?.readingPa ?? null}
      depositsMm={visit.depositsMm}
      fire={visit.doc.stops.length === 0 && visit.stopsAtOnce.length === 0}
      selected={current === "sweep" ? visit.segment : null}
      onselect={current === "sweep" ? pickSegment : undefined}
      overlay={visit.duct ? duct : undefined}
      more={visit.duct ?? []}
      {width}
      {height}
    />
  {/if}
  {#if !visit.signed && current !== "booking"}<SuspectsTray {visit} {lit} onlit={light} />{/if}
  <FindingsTray {visit} onpart={openPart} />
{/snippet}

<svelte:head
  ><title>{visit ? `${visit.doc.house.street}, ${visit.doc.house.place}` : "Visit"} · Grate</title></svelte:head
>

<Failure sentence={failed} />
{#if visit && step}
  {@const { house, stove } = visit.doc}
  <header
    class="border-base-300 flex items-center gap-x-4 gap-y-1 border-b px-6 py-3 max-sm:px-3 max-sm:py-2 sm:flex-wrap"
  >
    <h1 class="text-2xl max-sm:truncate max-sm:text-lg">
      <a href="/stoves/{stove.id}" class="hover:underline">{house.street}, {house.place}</a>
    </h1>
    <p class="text-quiet max-sm:hidden">{stove.model}, {stove.year} · {visit.doc.visit.row.purpose}</p>
    {#if visit.doc.stops.length === 0 && visit.stopsAtOnce.length === 0}
      <span class="border-base-300 ml-auto rounded-lg border px-3 py-1 max-sm:hidden">No stop on this stove</span>
    {/if}
  </header>
  <StopBanner
    stops={visit.doc.stops}
    atOnce={visit.stopsAtOnce}
    onclear={visit.writable ? () => void visit?.refresh() : undefined}
  />
  <div class="grid grid-cols-[minmax(0,1fr)] lg:grid-cols-[minmax(0,486fr)_150px_minmax(0,566fr)]">
    <div class="border-base-300 p-3 lg:sticky lg:top-0 lg:self-start lg:border-r max-lg:hidden">
      {@render picture(visit, "Layer of the drawing", 480, 560)}
    </div>
    <div class="border-base-300 px-1 py-4 max-lg:py-1 lg:border-r"><StepThread {visit} {current} /></div>
    <div class="bg-base-100 min-h-[calc(100vh-4rem)] p-5 max-sm:p-3">
      {#key current}<Step {visit} {step} open={page.params.station ?? null} ondone={() => move(1)} />{/key}
    </div>
    <div class="p-3 lg:hidden">{@render picture(visit, "Layer of the drawing, below", 360, 420)}</div>
  </div>
{:else if visit && !step}
  <Failure sentence="There is no such step in a visit." />
{:else if !failed}
  <p class="p-6"><span class="loading loading-dots" aria-label="Loading"></span></p>
{/if}
