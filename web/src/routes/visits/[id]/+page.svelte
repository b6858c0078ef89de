<script lang="ts">
  import { page } from "$app/state";
  import { api, reply } from "$lib/api/client";
  import Choice from "$lib/components/Choice.svelte";
  import StopBanner from "$lib/components/StopBanner.svelte";
  import Elevation, { skins, turned, type Skin } from "$lib/drawing/Elevation.svelte";
  import { keys } from "$lib/keys.svelte";
  import FindingsTray from "$lib/service/FindingsTray.svelte";
  import Station from "$lib/service/Station.svelte";
  import StepThread from "$lib/service/StepThread.svelte";
  import { VisitState } from "$lib/service/visit.svelte";

  const id = $derived(page.params.id!);
  let visit = $state<VisitState | null>(null);
  let failed = $state("");
  let current = $state("booking");
  let skin = $state<Skin>("condition");

  $effect(() => {
    void load(id);
  });

  async function load(visitId: string) {
    const answer = await reply(api.GET("/api/visits/{id}", { params: { path: { id: visitId } } }));
    failed = answer.kind === "away" ? answer.sentence : answer.kind === "problem" ? (answer.problem.title ?? "") : "";
    if (answer.kind !== "ok") return;
    visit = new VisitState(answer.data);
    current = answer.data.steps.find((s) => !s.saved || s.saved.status === "open")?.code ?? "next";
    skin = skinOf(current);
  }

  const step = $derived(visit?.doc.steps.find((s) => s.code === current));

  function pick(code: string) {
    current = code;
    skin = skinOf(code);
  }

  const skinOf = (code: string): Skin => (code === "hot-test" ? "pull" : code === "sweep" ? "deposits" : "condition");

  function pickSegment(index: number) {
    if (visit) visit.segment = index;
  }

  function move(by: number) {
    const steps = visit?.doc.steps ?? [];
    const next = steps[steps.findIndex((s) => s.code === current) + by];
    if (next) pick(next.code);
  }

  // A part opens the station it belongs to: the current one if it has it.
  function openPart(part: string) {
    const steps = visit?.doc.steps ?? [];
    const has = (code: string) => steps.find((s) => s.code === code)?.parts.some((p) => p.code === part);
    if (part === "hot-test") pick("hot-test");
    else if (!has(current)) pick(steps.find((s) => has(s.code))?.code ?? current);
    requestAnimationFrame(() =>
      document.querySelector(`[data-part="${part}"] button`)?.scrollIntoView({ block: "center" }),
    );
  }

  const partCondition = (part: string) => visit?.condition(part) ?? null;
  const reading = $derived(
    visit?.steps["hot-test"]?.value.hotTest?.readings.find((r) => r.draftPa != null)?.draftPa ?? null,
  );

  $effect(() => {
    keys.page = [
      { key: "j", does: "next step", run: () => move(1) },
      { key: "k", does: "step before", run: () => move(-1) },
      { key: "[", does: "skin before", run: () => (skin = turned(skin, -1)) },
      { key: "]", does: "next skin", run: () => (skin = turned(skin, 1)) },
      { key: "1…5", does: "condition of the part in focus", run: () => undefined },
    ];
    return () => (keys.page = []);
  });
</script>

{#snippet picture(visit: VisitState, label: string, width: number, height: number)}
  <Choice {label} options={skins} value={skin} onchange={(s) => (skin = s)} />
  <Elevation
    stove={visit.doc.stove}
    outline={visit.doc.outline}
    flue={visit.doc.flue.flue}
    layout={visit.doc.layout}
    {skin}
    conditionOf={partCondition}
    onpart={openPart}
    answer={visit.reckoned?.answer ?? visit.doc.readings[0]?.computed ?? null}
    readingPa={reading}
    depositsMm={visit.depositsMm}
    selected={current === "sweep" ? visit.segment : null}
    onselect={current === "sweep" ? pickSegment : undefined}
    {width}
    {height}
  />
  <FindingsTray {visit} onpart={openPart} />
{/snippet}

<svelte:head
  ><title>{visit ? `${visit.doc.stove.street}, ${visit.doc.stove.place}` : "Visit"} · Grate</title></svelte:head
>

{#if failed}<p role="alert" class="text-error p-6">{failed}</p>{/if}
{#if visit && step}
  {@const stove = visit.doc.stove}
  <header class="border-base-300 flex flex-wrap items-center gap-x-4 gap-y-1 border-b px-6 py-3">
    <h1 class="text-2xl"><a href="/stoves/{stove.id}" class="hover:underline">{stove.street}, {stove.place}</a></h1>
    <p class="text-quiet">{stove.model}, {stove.year} · {visit.doc.visit.purpose}</p>
    {#if visit.doc.stops.length === 0}
      <span class="border-base-content ml-auto rounded-lg border px-3 py-1">No stop on this stove</span>
    {/if}
  </header>
  <StopBanner stops={visit.doc.stops} />
  <div class="grid grid-cols-[minmax(0,1fr)] lg:grid-cols-[minmax(0,486fr)_150px_minmax(0,566fr)]">
    <div class="border-base-300 p-3 lg:sticky lg:top-0 lg:self-start lg:border-r max-lg:hidden">
      {@render picture(visit, "Skin of the drawing", 480, 560)}
    </div>
    <div class="border-base-300 px-1 py-4 lg:border-r"><StepThread {visit} {current} onpick={pick} /></div>
    <div class="bg-base-100 min-h-[calc(100vh-4rem)] p-5 max-sm:p-3">
      {#key current}<Station {visit} {step} onnext={() => move(1)} />{/key}
    </div>
    <div class="lg:hidden p-3">{@render picture(visit, "Skin of the drawing, below", 360, 420)}</div>
  </div>
{:else if !failed}
  <p class="p-6"><span class="loading loading-dots" aria-label="Loading"></span></p>
{/if}
