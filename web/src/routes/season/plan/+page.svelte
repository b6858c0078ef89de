<script lang="ts">
  import { api, failure, headline, reply, type Schema } from "$lib/api/client";
  import Failure from "$lib/components/Failure.svelte";
  import Mark from "$lib/components/Mark.svelte";
  import SentenceLine from "$lib/components/SentenceLine.svelte";
  import { day, dayOf } from "$lib/dates";
  import { tables } from "$lib/tables.svelte";

  let plan = $state<Schema["SeasonPlanAnswer"] | null>(null);
  let open = $state<string | null>(null);
  let bricks = $state<Schema["BrickAnswer"][] | null>(null);
  let placed = $state<Schema["PlacedBrick"][]>([]);
  let write = $state(true);
  let failed = $state("");
  let busy = $state(false);

  const making = $derived(plan?.percent ?? null);
  const most = $derived(Math.max(1, ...(plan?.weeks ?? []).map((w) => w.minutes)));

  async function load() {
    const answer = await reply(api.GET("/api/season/plan"));
    failed = failure(answer);
    if (answer.kind === "ok") plan = answer.data;
  }
  $effect(() => void load());
  // While a plan is made the page looks again every second.
  $effect(() => {
    if (making === null) return;
    const timer = setInterval(() => void load(), 1000);
    return () => clearInterval(timer);
  });

  async function make() {
    [open, bricks, placed] = [null, null, []];
    const answer = await reply(api.POST("/api/season/plan"));
    await load();
    failed = headline(answer);
  }

  async function stop() {
    await reply(api.DELETE("/api/season/plan"));
    await load();
  }

  async function look(monday: string) {
    open = open === monday ? null : monday;
    [bricks, placed] = [null, []];
    if (open) await loadWeek(monday);
  }

  async function loadWeek(monday: string) {
    const answer = await reply(api.GET("/api/season/plan/{monday}", { params: { path: { monday } } }));
    failed = headline(answer);
    if (answer.kind === "ok" && open === monday) bricks = answer.data;
  }

  async function accept(monday: string, only: Schema["BrickKey"][] | null) {
    busy = true;
    const answer = await reply(api.POST("/api/season/plan/accept", { body: { monday, only, write } }));
    busy = false;
    if (answer.kind === "ok") {
      placed = only ? [...placed, ...answer.data] : answer.data;
      await Promise.all([load(), loadWeek(monday)]);
    }
    failed = headline(answer);
  }

  const hours = (minutes: number) => `${(minutes / 60).toFixed(minutes < 600 ? 1 : 0)} h`;
</script>

<svelte:head><title>Season's plan · Grate</title></svelte:head>

<Failure sentence={failed} />
{#if plan}
  <div class="mx-auto max-w-5xl space-y-4 p-6 max-sm:p-3">
    <header class="flex flex-wrap items-baseline gap-x-4 gap-y-2">
      <h1 class="text-2xl">The season's plan</h1>
      {#if plan.kept}<span class="text-quiet">made on {dayOf(plan.kept.madeAt)}</span>{/if}
      <span class="ml-auto flex flex-wrap gap-2">
        <a class="btn min-h-11" href="/season">Season</a>
        {#if making === null}
          <button type="button" class="btn btn-primary min-h-11" onclick={make}
            >{plan.kept ? "Plan it anew" : "Plan the season"}</button
          >
        {:else}
          <button type="button" class="btn min-h-11" onclick={stop}>Stop</button>
        {/if}
      </span>
    </header>
    {#if making !== null}
      <p role="status" class="flex items-center gap-3">
        <progress class="progress progress-primary w-60" value={making} max="100" aria-label="Plan"></progress>
        Weighing every due visit against the hours of every week.
      </p>
    {:else if plan.failed}
      <p role="alert" class="text-error">{plan.failed}</p>
    {/if}
    {#if plan.kept}
      <div>
        {#each plan.kept.sentences as sentence, i (i)}<SentenceLine {sentence} />{/each}
      </div>
      <label class="flex min-h-11 items-center gap-2"
        ><input type="checkbox" class="checkbox" bind:checked={write} /> Write to the households whose week is taken</label
      >
      <ul class="bg-base-100 border-base-300 rounded-lg border">
        {#each plan.weeks as week (week.monday)}
          <li class="border-base-300 border-b last:border-b-0" data-plan-week={week.monday}>
            <button
              type="button"
              class="hover:bg-base-200 grid min-h-11 w-full grid-cols-[8rem_minmax(0,1fr)_14rem] items-center gap-3 px-4 py-2 text-left max-sm:grid-cols-1 max-sm:gap-1"
              aria-expanded={open === week.monday}
              onclick={() => look(week.monday)}
            >
              <span class="font-semibold">{day(week.monday)}</span>
              <span class="bg-base-200 h-3 rounded" aria-hidden="true"
                ><span class="bg-secondary block h-3 rounded" style="width: {(100 * week.minutes) / most}%"
                ></span></span
              >
              <span
                ><span class="computed">{week.visits}</span>
                {week.visits === 1 ? "visit" : "visits"}, <span class="computed">{hours(week.minutes)}</span>{week.early
                  ? `, ${week.early} early`
                  : ""}{week.late ? `, ${week.late} late` : ""}{week.asks ? `, ${week.asks} to ask` : ""}</span
              >
            </button>
            {#if open === week.monday}
              <div class="space-y-3 px-4 pb-4">
                {#if bricks}
                  <button
                    type="button"
                    class="btn btn-primary min-h-11"
                    disabled={busy || bricks.length === 0}
                    onclick={() => accept(week.monday, null)}>Take the week</button
                  >
                  <ul>
                    {#each bricks as brick (`${brick.line.applianceId}-${brick.line.number}`)}
                      <li class="border-base-300 flex flex-wrap items-center gap-x-4 gap-y-1 border-t py-2">
                        <span class="grow basis-72">
                          {#if brick.line.urgent}<Mark condition="unsafe" />{/if}
                          <a class="link font-semibold" href="/stoves/{brick.line.applianceId}"
                            >{brick.line.street}, {brick.line.place}</a
                          >
                          <span class="text-quiet"
                            >{brick.line.customer} · {tables.kindName(brick.line.kind, brick.line.combustor)}, {tables.show(
                              brick.line.woodKg,
                              "wood",
                            )} a year</span
                          >
                          <span class="block text-sm">{brick.purpose}: {brick.why}</span>
                        </span>
                        <span class="computed">{brick.line.minutes} min</span>
                        <button
                          type="button"
                          class="btn btn-sm min-h-11"
                          disabled={busy}
                          onclick={() =>
                            accept(week.monday, [{ applianceId: brick.line.applianceId, number: brick.line.number }])}
                          >Take it</button
                        >
                      </li>
                    {/each}
                  </ul>
                {:else}
                  <span class="loading loading-dots" aria-label="Loading"></span>
                {/if}
              </div>
            {/if}
          </li>
        {:else}
          <li class="text-quiet p-4">Every visit of it is planned.</li>
        {/each}
      </ul>
      {#if placed.length}
        <section aria-label="What was planned" role="status">
          {#each placed as brick, i (i)}
            <p class={brick.visitId ? "" : "text-error"}><strong>{brick.street}</strong>: {brick.sentence}</p>
          {/each}
        </section>
      {/if}
    {:else if making === null}
      <p class="max-w-prose">
        Every due visit gets a week: what presses first, households that burn little earlier, the same town together.
        Nothing is planned until you take a week, or one visit of it.
      </p>
    {/if}
  </div>
{:else if failed === ""}
  <p class="p-6"><span class="loading loading-dots" aria-label="Loading"></span></p>
{/if}
