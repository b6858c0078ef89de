<script lang="ts">
  import { page } from "$app/state";
  import { api, failure, headline, page as pageOf, reply, type Schema } from "$lib/api/client";
  import Failure from "$lib/components/Failure.svelte";
  import SentenceLine from "$lib/components/SentenceLine.svelte";
  import { day as said, weekday } from "$lib/dates";
  import { session } from "$lib/session.svelte";
  import Valley from "$lib/week/Valley.svelte";
  import { timeOf } from "$lib/week/plan";

  let round = $state<Schema["RoundAnswerOfDay"] | null>(null);
  let search = $state<Schema["RoundSearchAnswer"] | null>(null);
  let failed = $state("");
  let told = $state("");
  let busy = $state(false);
  let lit = $state<string | null>(null);
  let ill = $state<string[]>([]);
  let keepTold = $state(true);
  let wholeWeek = $state(false);
  let picked = $state<string | null>(null);

  const asked = $derived(page.url.searchParams.get("day"));
  const desk = $derived(session.person?.role !== "technician");
  const running = $derived(search?.running ?? null);
  const better = $derived(search?.found ?? null);

  async function load() {
    const query = asked ? { day: asked } : {};
    const answer = await pageOf(`round.${asked ?? ""}`, api.GET("/api/rounds", { params: { query } }));
    failed = failure(answer);
    if (answer.kind !== "ok") return;
    round = answer.data;
    // What was looked for before the page was left goes on, and is still there.
    if (desk) await look();
  }
  $effect(() => void load());

  const visitOf = (id: string) => round?.visits.find((v) => v.visit.visitId === id);
  const days = $derived(better?.days ?? (round ? [{ day: round.day, routes: round.routes }] : []));
  const open = $derived(days.find((d) => d.day === (picked ?? round?.day)) ?? days[0]);
  const shown = $derived((open?.routes ?? []).filter((r) => r.stops.length));
  const at = (day: string, minute: number) => (wholeWeek ? `${weekday(day)}, ` : "") + timeOf(minute);
  const some = (count: number) => `${count} ${count === 1 ? "visit" : "visits"}`;

  function take(answer: Schema["RoundSearchAnswer"]) {
    const wish = answer.wish;
    search = wish && wish.day === round?.day ? answer : null;
    if (search) [keepTold, wholeWeek, ill] = [wish!.keepTold, wish!.wholeWeek, wish!.without ?? []];
  }
  async function look(again = false) {
    const answer = await reply(api.GET("/api/rounds/better"));
    // Another wish was made while this one was asked after.
    if (again && !searching) return;
    failed = headline(answer);
    if (answer.kind === "ok") take(answer.data);
  }
  // While it is looked for, the page asks twice a second how far it is, and goes on asking when an answer is lost.
  const searching = $derived(running !== null);
  $effect(() => {
    if (!searching) return;
    const timer = setInterval(() => void look(true), 500);
    return () => clearInterval(timer);
  });

  async function start() {
    [busy, told, picked] = [true, "", null];
    const answer = await reply(
      api.POST("/api/rounds/better", { body: { day: round!.day, wholeWeek, keepTold, without: ill } }),
    );
    busy = false;
    failed = headline(answer);
    if (answer.kind === "ok") take(answer.data);
  }

  async function halt() {
    const answer = await reply(api.POST("/api/rounds/better/halt"));
    failed = headline(answer);
    if (answer.kind === "ok") take(answer.data);
  }

  async function accept() {
    busy = true;
    const { moves, left } = better!;
    const body = {
      moves: moves.map((m) => ({
        visitId: m.visitId,
        baseVersion: m.planVersion,
        technicianId: m.technicianId,
        day: m.toDay,
        fromMin: m.toMin,
      })),
      loose: left.map((l) => ({ visitId: l.visitId, baseVersion: l.planVersion })),
    };
    const answer = await reply(api.POST("/api/rounds/accept", { body }));
    busy = false;
    failed = headline(answer);
    if (answer.kind !== "ok") return;
    told = `${some(moves.length)} moved${
      left.length ? `, ${left.length} wait among the loose ones` : ""
    }. Tell the households from the week.`;
    changed();
    ill = [];
    await load();
  }
  // What was found answers other wishes than those that stand there now; the next search takes its place.
  const changed = () => ([search, picked] = [null, null]);
  async function forget() {
    changed();
    failed = headline(await reply(api.DELETE("/api/rounds/better")));
  }
  const toggle = (id: string) => {
    ill = ill.includes(id) ? ill.filter((i) => i !== id) : [...ill, id];
  };
</script>

<svelte:head><title>Round · Grate</title></svelte:head>

{#snippet tick(label: string, checked: boolean, flip: () => void)}
  <label class="flex min-h-11 items-center gap-2">
    <input
      type="checkbox"
      class="checkbox"
      {checked}
      onchange={() => {
        flip();
        changed();
      }}
    />{label}
  </label>
{/snippet}

<Failure sentence={failed} />
{#if round}
  <div class="mx-auto max-w-6xl space-y-5 p-6 max-sm:p-3">
    <header class="flex flex-wrap items-baseline gap-x-4 gap-y-2">
      <h1 class="text-2xl">Round of {said(round.day)}</h1>
      <span
        >Light from <span class="computed">{timeOf(round.dawnMin)}</span> to
        <span class="computed">{timeOf(round.duskMin)}</span></span
      >
      <span class="text-quiet">{round.roads}</span>
      <span class="ml-auto flex flex-wrap gap-2 print:hidden">
        <a class="btn btn-sm min-h-11" href="/week?day={round.day}">The week</a>
        <button type="button" class="btn btn-sm min-h-11" onclick={() => window.print()}>Print the sheet</button>
        <a class="btn btn-sm min-h-11" href="/api/rounds.geojson?day={round.day}" download="round-{round.day}.geojson"
          >GeoJSON</a
        >
      </span>
    </header>
    {#if told}<p role="status">{told}</p>{/if}
    {#if desk && round.toCome}
      <section aria-labelledby="better" class="border-base-300 rounded-lg border p-4 print:hidden">
        <h2 id="better" class="text-lg">A better {wholeWeek ? "week" : "day"}</h2>
        <div class="mt-1 flex flex-wrap items-center gap-x-5 gap-y-1">
          {#each round.routes as r (r.technicianId)}
            {@render tick(`${r.name} is ill`, ill.includes(r.technicianId), () => toggle(r.technicianId))}
          {/each}
          {@render tick("Nobody who was told is moved", keepTold, () => (keepTold = !keepTold))}
          {@render tick("Visits may change their day within the week", wholeWeek, () => (wholeWeek = !wholeWeek))}
          {#if running}
            <button type="button" class="btn min-h-11" onclick={halt}>Stop, and take the best so far</button>
          {:else}
            <button type="button" class="btn btn-primary min-h-11" disabled={busy} onclick={start}
              >{busy ? "Looking …" : "Look for it"}</button
            >
          {/if}
        </div>
        {#if running}
          <p role="status" class="mt-2 flex flex-wrap items-center gap-3">
            <progress class="progress progress-primary w-60" value={running.done} max="1" aria-label="Search"
            ></progress>
            <span
              ><span class="computed">{running.driveMin.toFixed(0)} min</span> of driving so far{running.unplaced
                ? `, ${some(running.unplaced)} without a place`
                : ""}</span
            >
          </p>
        {:else if search?.failed}
          <p role="alert" class="text-error">{search.failed}</p>
        {:else if better}
          <div role="status">
            {#each better.sentences as sentence, i (i)}<SentenceLine {sentence} />{/each}
            {#each better.left as l (l.visitId)}<SentenceLine sentence={l.why} />{/each}
          </div>
          {#if better.left.length}<p>What has no place is cancelled and waits among the loose ones of the week.</p>{/if}
          {#if better.moves.length || better.left.length}
            <ul class="mt-2">
              {#each better.moves as m (m.visitId)}
                <li class="border-base-300 border-b py-1">
                  <strong>{m.street}</strong>: {m.from}
                  {at(m.fromDay, m.fromMin)} → {m.to}
                  <span class="computed">{at(m.toDay, m.toMin)}</span>
                  {#if m.told}<span class="font-semibold">the household was told</span>{/if}
                </li>
              {/each}
            </ul>
            <div class="mt-3 flex gap-3">
              <button type="button" class="btn btn-primary min-h-11" disabled={busy} onclick={accept}>Move them</button>
              <button type="button" class="btn min-h-11" onclick={forget}>Leave it as it is</button>
            </div>
          {/if}
        {/if}
      </section>
    {/if}
    {#if days.length > 1}
      <div class="flex flex-wrap gap-2 print:hidden" role="group" aria-label="Days">
        {#each days as d (d.day)}
          <button
            type="button"
            class="btn btn-sm min-h-11"
            aria-pressed={d === open}
            onclick={() => ([picked, lit] = [d.day, null])}
            >{weekday(d.day)}, {some(d.routes.reduce((n, r) => n + r.stops.length, 0))}</button
          >
        {/each}
      </div>
    {/if}
    {#if shown.length === 0}
      <p class="text-quiet">No visit is planned that day.</p>
    {:else}
      <div class="print:hidden">
        <Valley home={round.home} routes={shown} {lit} onlit={(id) => (lit = lit === id ? null : id)} />
      </div>
    {/if}
    {#each shown as r (r.technicianId)}
      <section aria-label="Sheet of {r.name}" class="break-after-page">
        <h2 class="text-lg">
          {r.name}: {r.stops.length}
          {r.stops.length === 1 ? "stop" : "stops"}, <span class="computed">{r.driveMin.toFixed(0)} min</span> driving
        </h2>
        <p>
          Leaves at <span class="computed">{timeOf(r.leaveMin)}</span>{#if r.homeMin != null}, home at <span
              class="computed">{timeOf(r.homeMin)}</span
            >{/if}{#if r.lateMin >= 1}; <span class="text-error font-semibold"
              >{r.lateMin.toFixed(0)} min late in all</span
            >{/if}
        </p>
        <ol class="mt-1">
          {#each r.stops as s, i (s.visitId)}
            {@const v = visitOf(s.visitId)}
            <li class="border-base-300 grid grid-cols-[2rem_4rem_1fr] gap-x-3 border-b py-2">
              <span class="font-bold">{i + 1}</span>
              <span class="measured"
                >{timeOf(s.fromMin)}<br /><span class="text-quiet text-sm">{timeOf(s.toMin)}</span></span
              >
              <span>
                <a class="link" href="/visits/{s.visitId}"><strong>{s.street}, {s.place}</strong></a>
                <span class="text-quiet">{s.driveMin.toFixed(0)} min drive</span>
                {#if s.lateMin >= 1}<span class="text-error font-semibold">{s.lateMin.toFixed(0)} min late</span>{/if}
                {#if s.roof}<span class="font-semibold">roof</span>{/if}
                {#if v}<br />{v.customer}, {v.phone} · {v.model} · {v.purpose}{#if v.access}<br /><span
                      class="text-quiet">{v.access}</span
                    >{/if}{/if}
              </span>
            </li>
          {/each}
        </ol>
      </section>
    {/each}
  </div>
{:else if !failed}
  <p class="p-6"><span class="loading loading-dots" aria-label="Loading"></span></p>
{/if}
