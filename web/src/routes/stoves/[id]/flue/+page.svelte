<script lang="ts">
  import { goto } from "$app/navigation";
  import { page } from "$app/state";
  import { api, failure, reply, sentences, type Schema } from "$lib/api/client";
  import Failure from "$lib/components/Failure.svelte";
  import Choices from "$lib/components/Choices.svelte";
  import Elevation, { layers, type Layer } from "$lib/drawing/Elevation.svelte";
  import { after } from "$lib/drawing/geometry";
  import ChainList from "$lib/flue/ChainList.svelte";
  import Comparison from "$lib/flue/Comparison.svelte";
  import { FlueEditor, type Board } from "$lib/flue/editor.svelte";
  import FireAndWeather from "$lib/flue/FireAndWeather.svelte";
  import FlueHandles from "$lib/flue/FlueHandles.svelte";
  import type { Level } from "$lib/flue/levels";
  import ObstacleRows from "$lib/flue/ObstacleRows.svelte";
  import { Reckoner } from "$lib/visits/reckoner.svelte";
  import Remarks from "$lib/flue/Remarks.svelte";
  import WhatIfs from "$lib/flue/WhatIfs.svelte";
  import { keys } from "$lib/keys.svelte";
  import { session } from "$lib/session.svelte";
  import { settings } from "$lib/settings.svelte";
  import { uuid7 } from "$lib/uuid";

  const id = $derived(page.params.id!);
  let doc = $state<Schema["FlueAnswer"] | null>(null);
  let editor = $state<FlueEditor | null>(null);
  let failed = $state("");
  let layer = $state<Layer>("pull");
  let level = $state<Level>("normal");
  let outdoorC = $state<number | null>(null);
  const reckoner = new Reckoner<Schema["FlueTrialAnswer"]>();
  const errors = $derived(reckoner.refused);
  const blocked = $derived(Object.keys(errors).length > 0);
  // A board that is refused has no verdict; its drawing keeps the last layout that could stand.
  const trial = $derived(blocked ? null : reckoner.answer);
  const layout = $derived(reckoner.answer?.layout);
  let saving = $state("");
  let starting = $state(false);
  let svg = $state<SVGSVGElement>();
  const mayWrite = $derived(session.person?.role !== "office");

  function boardOf(answer: Schema["FlueAnswer"]): Board {
    const { flue, stoveXM } = answer.flue;
    return {
      stoveXM,
      segments: flue.segments ?? [],
      cap: flue.cap ?? "open",
      screen: flue.screen ?? false,
      obstacles: answer.outline.obstacles,
    };
  }

  async function load() {
    const answer = await reply(api.GET("/api/stoves/{id}/flue", { params: { path: { id } } }));
    failed = failure(answer);
    if (answer.kind !== "ok") return;
    doc = answer.data;
    editor = new FlueEditor(`grate.flue.${id}`, boardOf(answer.data), answer.data.flue.flue.segments?.[0]?.shape);
  }
  $effect(() => void load());

  const entry = (board: Board): Schema["FlueEntry"] => ({
    segments: board.segments,
    cap: board.cap,
    screen: board.screen,
  });

  // Every change goes to the core at once; the drawing keeps its last good layout.
  $effect(() => {
    if (!editor) return;
    const board = $state.snapshot(editor.board) as Board;
    const params = { path: { id }, query: { units: settings.system } };
    const body = { stoveXM: board.stoveXM, flue: entry(board), obstacles: board.obstacles, level, outdoorC };
    void reckoner.ask(api.POST("/api/stoves/{id}/flue/trial", { params, body }), true);
  });

  // What the drawing shows belongs to the board whose layout it is.
  const drawable = $derived(layout && editor && layout.segments.length === editor.board.segments.length);

  async function save() {
    if (!editor || !doc) return;
    const board = $state.snapshot(editor.board) as Board;
    const params = { path: { id, versionId: uuid7() }, query: { units: settings.system } };
    const body = {
      baseNumber: doc.flue.number,
      stoveXM: board.stoveXM,
      flue: entry(board),
      obstacles: board.obstacles,
    };
    const answer = await reply(api.PUT("/api/stoves/{id}/flue/{versionId}", { params, body }));
    saving =
      answer.kind === "away"
        ? answer.sentence
        : answer.kind === "problem"
          ? answer.status === 409
            ? `${answer.problem.title} Reload to see it; your board is kept in this browser.`
            : sentences(answer.problem).join(" ")
          : "";
    if (answer.kind !== "ok") return;
    editor.forget();
    await goto(`/stoves/${id}`);
  }

  function start(board: Partial<Board>) {
    editor?.replace(board);
    starting = false;
  }

  function discard() {
    if (!editor) return;
    editor.replace(editor.stored);
    editor.forget();
  }

  function select(index: number) {
    if (!editor || index < 0 || index >= editor.board.segments.length) return;
    editor.settle();
    editor.selected = index;
    document.querySelector<HTMLElement>(`[data-segment="${index}"]`)?.focus();
  }

  $effect(() => {
    const e = editor;
    if (!e || !mayWrite) return;
    const then = (run: () => void) => () => {
      run();
      requestAnimationFrame(() => document.querySelector<HTMLElement>(`[data-segment="${e.selected}"]`)?.focus());
    };
    keys.page = [
      { key: "a", does: "add a piece above", run: then(() => e.add()) },
      { key: "w", does: "split the piece in two", run: then(() => e.split()) },
      { key: "Delete", does: "take the piece out", run: then(() => e.remove()) },
      { key: "ArrowUp", does: "piece above", run: () => select(e.selected + 1) },
      { key: "ArrowDown", does: "piece below", run: () => select(e.selected - 1) },
      { key: "PageUp", does: "move the piece up", run: then(() => e.move(1)) },
      { key: "PageDown", does: "move the piece down", run: then(() => e.move(-1)) },
      { key: "+", does: "longer", run: () => e.stretch(0.1) },
      { key: "-", does: "shorter", run: () => e.stretch(-0.1) },
      { key: "d", does: "turn the drawing", run: () => (layer = after(layers, layer)) },
    ];
    return () => (keys.page = []);
  });
</script>

<svelte:head><title>{doc ? `Flue, ${doc.house.street}, ${doc.house.place}` : "Flue"} · Grate</title></svelte:head>

<Failure sentence={failed} />
{#if doc && editor}
  {@const e = editor}
  {@const stove = doc.stove}
  <header class="border-base-300 flex flex-wrap items-center gap-x-4 gap-y-1 border-b px-6 py-3">
    <h1 class="text-2xl">
      Flue, <a href="/stoves/{stove.id}" class="hover:underline">{doc.house.street}, {doc.house.place}</a>
    </h1>
    <p class="text-quiet">version {doc.flue.number}{e.changed ? ", changed on the board" : ""}</p>
    {#if mayWrite}
      <div class="ml-auto flex flex-wrap gap-2">
        <button class="btn" disabled={!e.canUndo} onclick={() => e.undo()}>Take back</button>
        <button class="btn" disabled={!e.canRedo} onclick={() => e.redo()}>Do again</button>
        <button class="btn" disabled={!e.changed} onclick={discard}>Discard</button>
        <button class="btn btn-primary" disabled={!e.changed || blocked} onclick={save}
          >Save as version {doc.flue.number + 1}</button
        >
      </div>
    {/if}
  </header>
  {#if saving || reckoner.away}<p role="alert" class="text-error px-6 py-2">{saving || reckoner.away}</p>{/if}
  <div class="grid grid-cols-[minmax(0,1fr)] lg:grid-cols-[minmax(0,520fr)_minmax(0,684fr)]">
    <div class="border-base-300 p-3 lg:sticky lg:top-0 lg:self-start lg:border-r">
      <Choices label="Layer of the drawing" options={layers} value={layer} onchange={(l) => (layer = l)} />
      {#if layout && drawable}
        <Elevation
          {stove}
          house={doc.house}
          outline={{ ...doc.outline, obstacles: e.board.obstacles }}
          flue={entry(e.board)}
          {layout}
          {layer}
          answer={trial?.after ?? null}
          width={500}
          height={460}
          selected={e.selected}
          onselect={select}
          bind:svg
        >
          {#snippet overlay(view)}
            {#if mayWrite}<FlueHandles editor={e} {layout} {view} {svg} />{/if}
          {/snippet}
        </Elevation>
      {:else if e.board.segments.length === 0}
        <p class="text-quiet p-10 text-center">
          Nothing on the collar yet. Press <kbd class="kbd kbd-sm">a</kbd> for a first piece, or start from a usual system.
        </p>
      {/if}
      {#if mayWrite}
        <div class="flex flex-wrap gap-2 py-2">
          <button class="btn btn-sm bg-base-100" onclick={() => e.add()} title="a">Add above</button>
          <button class="btn btn-sm bg-base-100" disabled={!e.segment} onclick={() => e.split()} title="w"
            >Split in two</button
          >
          <button class="btn btn-sm bg-base-100" disabled={!e.segment} onclick={() => e.move(1)} title="Page up"
            >Move up</button
          >
          <button class="btn btn-sm bg-base-100" disabled={!e.segment} onclick={() => e.move(-1)} title="Page down"
            >Move down</button
          >
          <button class="btn btn-sm bg-base-100" disabled={!e.segment} onclick={() => e.remove()} title="Delete"
            >Take out</button
          >
        </div>
      {/if}
      <section aria-labelledby="does" class="border-base-content border-t-2 pt-2">
        <h2 id="does" class="text-lg">What it would do</h2>
        <FireAndWeather bind:level bind:outdoorC errors={errors.outdoorC ?? []} />
        {#if trial}<Comparison before={trial.before} after={trial.after} />{/if}
      </section>
    </div>
    <div class="bg-base-100 space-y-4 p-5 max-sm:p-3">
      {#if mayWrite}
        <details bind:open={starting}>
          <summary class="cursor-pointer">Start from a usual system, or from nothing</summary>
          <div class="flex flex-wrap gap-2 py-2">
            {#each doc.typical as t (t.code)}
              <button
                type="button"
                class="btn btn-sm"
                onclick={() =>
                  start({
                    stoveXM: t.stoveXM,
                    segments: t.flue.segments ?? [],
                    cap: t.flue.cap ?? "open",
                    screen: t.flue.screen ?? false,
                  })}>{t.name}</button
              >
            {/each}
            <button type="button" class="btn btn-sm" onclick={() => start({ segments: [] })}
              >nothing: an empty collar</button
            >
          </div>
        </details>
      {/if}
      <ChainList editor={e} {errors} {mayWrite} onselect={select} />

      <section aria-labelledby="know" class="border-base-content border-t-2 pt-2">
        <h2 id="know" class="text-lg">What to know about it</h2>
        {#if trial}
          <Remarks remarks={trial.remarks} />
          {#if trial.remarks.length === 0}<p class="text-quiet">Nothing against it.</p>{/if}
          <h3 class="mt-3">What if</h3>
          <WhatIfs
            whatIfs={trial.whatIfs}
            onapply={mayWrite
              ? (change) => e.replace({ segments: change.flue.segments ?? [], cap: change.flue.cap ?? e.board.cap })
              : undefined}
          />
        {:else if blocked}
          <p class="text-quiet">Nothing to say until it can stand: see the sentences beside the pieces.</p>
        {/if}
      </section>
      {#if mayWrite}
        <details>
          <summary class="cursor-pointer">Stove’s place, and what stands around the house</summary>
          <ObstacleRows editor={e} {errors} />
        </details>
      {/if}
    </div>
  </div>
{:else if !failed}
  <p class="p-6"><span class="loading loading-dots" aria-label="Loading"></span></p>
{/if}
