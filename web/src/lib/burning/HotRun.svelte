<script lang="ts">
  import { onDestroy, untrack } from "svelte";
  import { goto } from "$app/navigation";
  import type { Schema } from "../api/client";
  import { clock } from "../clock";
  import NumberField from "../components/NumberField.svelte";
  import SentenceLine from "../components/SentenceLine.svelte";
  import LiveGauge from "../instruments/LiveGauge.svelte";
  import { live } from "../instruments/live.svelte";
  import { tables } from "../tables.svelte";
  import Decided from "../visits/Decided.svelte";
  import Reckoning from "../visits/Reckoning.svelte";
  import type { Step, VisitState } from "../visits/visit.svelte";
  import RunDone from "./RunDone.svelte";
  import WaysToLight from "./WaysToLight.svelte";

  let { visit, step }: { visit: VisitState; step: Step } = $props();

  type Run = Schema["HotRun"];
  type RunStep = Schema["RunStep"];
  type Mark = Schema["RunMark"];
  const station = $derived(visit.station<Run, Schema["HotRunAnswer"]>(step.code, "hot-run")!);
  const run = $derived(station.entry);
  const answer = $derived(station.answer);
  const marks = $derived(run.marks ?? []);
  const samples = $derived(run.samples ?? []);
  const set = (change: Partial<Run>) => station.set(change);
  // What other stations of the step find out answers questions of the run: they are asked again when those are saved.
  const others = $derived(
    Object.values(visit.stations)
      .filter((s) => s.step === step.code && s.code !== "hot-run")
      .map((s) => s.saver.version)
      .join(),
  );
  $effect(() => {
    void others;
    station.reckon(undefined, true);
  });

  const everyS = 30;
  const mostSamples = 400;
  let now = $state(clock.now());
  $effect(() => {
    const timer = setInterval(() => (now = clock.now()), 250);
    return () => clearInterval(timer);
  });
  const lit = $derived(run.startedAt ? Date.parse(run.startedAt) : null);
  const pausedS = $derived(
    (run.pausedS ?? 0) + (run.pausedAt ? Math.max(0, (now - Date.parse(run.pausedAt)) / 1000) : 0),
  );
  const until = $derived(run.endedAt ? Date.parse(run.endedAt) : now);
  const minute = $derived(lit === null ? 0 : Math.max(0, (until - lit) / 60000 - pausedS / 60));
  const going = $derived(lit !== null && !run.endedAt && !run.pausedAt);

  $effect(() => {
    visit.run = answer ? { answer, samples, minute } : null;
  });
  onDestroy(() => (visit.run = null));
  // What instruments send is kept twice a minute, and with every step that is done.
  $effect(() => {
    if (!going || !visit.writable || (!live.has("flueC") && !live.has("draftPa"))) return;
    const last = samples.at(-1)?.minute ?? -1;
    if ((minute - last) * 60 >= everyS) untrack(keepSample);
  });
  const rounded = (n: number, to = 100) => Math.round(n * to) / to;
  const readings = () => ({
    gasC: live.has("flueC") ? rounded(live.values["flueC"]!, 10) : null,
    draftPa: live.has("draftPa") ? rounded(live.values["draftPa"]!) : null,
  });
  // A gust is no reading: what the gauge says is the mean of its last minute, and unsteady it is asked to wait.
  const unsteady = $derived(live.has("draftPa") && live.steadiness?.unsteady === true);
  const steadyPa = () =>
    live.has("draftPa") && live.steadiness ? rounded(live.steadiness.meanPa) : readings().draftPa;
  function keepSample() {
    const next = [...samples, { minute: rounded(minute), ...readings() }];
    // A long run keeps every other of its samples.
    set({ samples: next.length > mostSamples ? next.filter((_, i) => i % 2 === 0) : next });
    climbed(readings().gasC);
  }

  let typed = $state<{ gasC: number | null; draftPa: number | null; coPpm: number | null }>({
    gasC: null,
    draftPa: null,
    coPpm: null,
  });
  let heeded = $state<string | null>(null);
  const next = $derived(answer?.steps.find((s) => s.step === answer.next) ?? null);
  const between = $derived(answer?.steps.filter((s) => s.atMinute == null && !s.mark) ?? []);
  const done = $derived(answer?.steps.filter((s) => s.mark) ?? []);
  const due = $derived(next?.atMinute == null ? 0 : Math.ceil(next.atMinute - minute));

  function start() {
    const at = new Date(clock.now()).toISOString();
    set({
      startedAt: at,
      endedAt: null,
      pausedAt: null,
      pausedS: 0,
      marks: kept([{ step: "light", minute: 0 }]),
      samples: [],
    });
  }
  // The steps before the fire stay when it is lit.
  const kept = (added: Mark[]) => [...marks.filter((m) => !added.some((a) => a.step === m.step)), ...added];
  // What is read here belongs to other stations, too: a fire's draft, and the climb of the combustor.
  const levels: Record<string, "low" | "normal" | "high"> = {
    "low-fire": "low",
    "normal-fire": "normal",
    "high-fire": "high",
  };
  const drafts = $derived(visit.station<Schema["HotTest"], Schema["HotTestAnswer"]>(step.code, "hot-draft"));
  const climb = $derived(visit.station<Schema["LightOffTest"], Schema["LightOffTestAnswer"]>(step.code, "light-off"));
  function tell(kept: Mark) {
    const level = levels[kept.step ?? ""];
    if (level && kept.draftPa != null && drafts) {
      const others = (drafts.entry.readings ?? []).filter((r) => r.level !== level);
      drafts.set({
        readings: [
          ...others,
          { level, draftPa: kept.draftPa, gasC: kept.gasC, gasBy: kept.gasC == null ? null : "probe" },
        ],
      });
    }
    if (kept.step === "close-bypass" && kept.gasC != null)
      climb?.set({ series: [{ minute: 0, probeC: kept.gasC }], topClear: null });
  }
  const shut = $derived(marks.find((m) => m.step === "close-bypass")?.minute ?? null);
  function climbed(probeC: number | null) {
    if (!climb || shut === null || probeC === null || next?.step !== "light-off") return;
    const at = Math.floor(minute - shut);
    const series = climb.entry.series ?? [];
    if (series.length && !series.some((s) => s?.minute === at)) {
      climb.set({ series: [...series, { minute: at, probeC }] });
      climb.reckon(undefined, true);
    }
  }
  // It is judged by itself.
  $effect(() => {
    if (!next || next.step !== "light-off" || !climb?.answer?.over || !climb.answer.result || !visit.writable) return;
    if (!untrack(() => marks.some((m) => m.step === "light-off"))) untrack(() => mark(next));
  });

  // A reading waits for the gauge to stand; what never does is kept as what it is.
  const waits = (of: RunStep) => of.reads && unsteady && typed.draftPa === null;
  function mark(of: RunStep, saw: Mark["saw"] = null) {
    const read = of.reads || of.step === "room-co";
    const by = read ? readings() : { gasC: null, draftPa: null };
    const done: Mark = {
      step: of.step,
      minute: rounded(minute),
      saw,
      swings: waits(of),
      gasC: read ? (typed.gasC ?? by.gasC) : null,
      draftPa: read ? (typed.draftPa ?? steadyPa()) : null,
      coPpm:
        of.step === "room-co" ? (typed.coPpm ?? (live.has("coPpm") ? Math.round(live.values["coPpm"]!) : null)) : null,
    };
    set({ marks: kept([done]) });
    tell(done);
    typed = { gasC: null, draftPa: null, coPpm: null };
    heeded = null;
  }
  const undo = (of: RunStep) => set({ marks: marks.filter((m) => m.step !== of.step) });
  const pause = () => set({ pausedAt: new Date(clock.now()).toISOString() });
  const goOn = () => set({ pausedAt: null, pausedS: Math.round(pausedS) });
  const end = () => set({ endedAt: new Date(clock.now()).toISOString(), pausedAt: null, pausedS: Math.round(pausedS) });
  const clockText = (m: number) => `${Math.floor(m)}:${String(Math.floor((m % 1) * 60)).padStart(2, "0")}`;
</script>

{#snippet looks(of: RunStep)}
  <div class="flex flex-wrap gap-2" role="group" aria-label={of.say}>
    {#each of.looks as saw (saw)}
      <button type="button" class="btn min-h-11" disabled={!visit.writable} onclick={() => mark(of, saw)}
        >{tables.word("runSaw", saw)}</button
      >
    {/each}
  </div>
{/snippet}

<section aria-labelledby="hot-run">
  <h3 id="hot-run" class="sr-only">The run</h3>
  {#if visit.writable}<div class="mb-4"><LiveGauge visitId={visit.id} /></div>{/if}
  {#if answer}
    {#if lit === null}
      <WaysToLight
        lighting={answer.lighting}
        school={run.school ?? null}
        disabled={!visit.writable}
        onchange={(school) => set({ school })}
      />
    {:else}
      <div class="flex flex-wrap items-baseline gap-x-3">
        <span
          class="measured text-3xl"
          role="timer"
          aria-label="Minutes since lighting"
          data-minute={Math.floor(minute)}>{clockText(minute)}</span
        >
        <span class="text-quiet"
          >of about {answer.typicalMin.toFixed(0)} min{run.pausedAt ? ", paused" : run.endedAt ? ", ended" : ""}</span
        >
      </div>
    {/if}

    {#if next && !run.endedAt}
      <p class="text-quiet mt-4 text-sm">{lit !== null && due > 0 ? `In ${due} min` : "Now"}</p>
      <p class="font-display text-2xl font-bold" data-next={next.step}>{next.say}</p>
      {#if next.caution && heeded !== next.step}
        <p class="border-base-content my-3 border-l-4 pl-3 font-semibold">{next.caution}</p>
      {/if}
      {#if next.reads && lit !== null}
        <div class="mt-2 grid grid-cols-2 gap-3">
          <NumberField
            compact
            id="run-draftPa"
            label="Draft"
            quantity="draft"
            instrument="draftPa"
            value={typed.draftPa}
            disabled={!visit.writable}
            onchange={(draftPa) => (typed.draftPa = draftPa)}
          />
          <NumberField
            compact
            id="run-gasC"
            label="Flue gas"
            quantity="temperature"
            instrument="flueC"
            value={typed.gasC}
            disabled={!visit.writable}
            onchange={(gasC) => (typed.gasC = gasC)}
          />
        </div>
      {/if}
      {#if waits(next)}<p class="mt-2" role="status">The draft swings: wait until it stands steady.</p>{/if}
      {#if visit.writable}
        <div class="mt-3 flex flex-wrap gap-2">
          {#if next.caution && heeded !== next.step && next.looks.length}
            <button type="button" class="btn btn-neutral min-h-11" onclick={() => (heeded = next.step)}
              >So done: opened</button
            >
          {:else if next.looks.length}
            {@render looks(next)}
          {:else if next.step === "light"}
            <button type="button" class="btn btn-neutral min-h-11" onclick={start}>Lit now</button>
          {:else}
            <button type="button" class="btn btn-neutral min-h-11" disabled={waits(next)} onclick={() => mark(next)}
              >{next.reads ? "Keep it" : "Done"}</button
            >
            {#if waits(next)}
              <button type="button" class="btn min-h-11" onclick={() => mark(next)}>It never stands: keep it so</button>
            {/if}
          {/if}
          {#if next.station}
            <button
              type="button"
              class="btn min-h-11"
              onclick={() => void goto(`/visits/${visit.id}/${step.code}/${next.station}`)}>Open its station</button
            >
          {/if}
          {#if lit !== null}
            {#if run.pausedAt}<button type="button" class="btn min-h-11" onclick={goOn}>Go on</button>
            {:else}<button type="button" class="btn min-h-11" onclick={pause}>Pause the run</button>{/if}
            <button type="button" class="btn btn-ghost min-h-11" onclick={end}>End it</button>
          {/if}
        </div>
      {/if}
    {:else if lit !== null && visit.writable && !run.endedAt}
      <p class="font-display mt-4 text-2xl font-bold">Everything in its turn is done.</p>
      <button type="button" class="btn btn-neutral mt-2 min-h-11" onclick={end}>End the run</button>
    {:else if run.endedAt && visit.writable}
      <a class="btn mt-3 min-h-11" href="/visits/{visit.id}/run">Show it to the household</a>
      <button type="button" class="btn mt-3 min-h-11" onclick={() => set({ endedAt: null })}
        >It goes on after all</button
      >
    {/if}

    {#if lit !== null && between.length && visit.writable}
      <h3 class="border-base-content mt-5 border-t-2 pt-2">Meanwhile</h3>
      <ul>
        {#each between as of (of.step)}
          <li class="flex flex-wrap items-center gap-3 py-1.5">
            <span class="grow">{of.say}</span>
            {#if of.looks.length}{@render looks(of)}
            {:else if of.step === "room-co"}
              <div class="w-36">
                <NumberField
                  bare
                  compact
                  id="run-coPpm"
                  label="Carbon monoxide in the room"
                  quantity="concentration"
                  instrument="coPpm"
                  value={typed.coPpm}
                  onchange={(coPpm) => (typed.coPpm = coPpm)}
                />
              </div>
              <button
                type="button"
                class="btn min-h-11"
                disabled={typed.coPpm === null && !live.has("coPpm")}
                onclick={() => mark(of)}>Keep it</button
              >
            {:else}<button type="button" class="btn min-h-11" onclick={() => mark(of)}>Done</button>{/if}
          </li>
        {/each}
      </ul>
    {/if}
    {#if done.length}<RunDone steps={done} writable={visit.writable} onundo={undo} />{/if}
  {/if}
  {#each station.refusals as sentence, n (n)}<p class="text-error text-sm">{sentence}</p>{/each}
  <Reckoning reckoner={station.reckoner} assumed={[]}>
    {#snippet more()}
      {#if lit !== null}
        <dl class="mt-2">
          {#each answer?.questions ?? [] as q (q.question)}
            <div class="border-base-300 grid grid-cols-[1fr_1.2fr] gap-3 border-t py-1">
              <dt>{q.ok === null || q.ok === undefined ? "○" : q.ok ? "✓" : "✗"} {q.question}</dt>
              <dd class={q.ok === false ? "text-error font-semibold" : q.ok ? "" : "text-quiet"}>
                <SentenceLine sentence={q.answer} />
              </dd>
            </div>
          {/each}
        </dl>
      {/if}
      <Decided {visit} {step} parts={answer?.parts ?? []} />
    {/snippet}
  </Reckoning>
</section>
