<script lang="ts">
  import { api, reply, refusals, type Schema } from "$lib/api/client";
  import SentenceLine from "$lib/components/SentenceLine.svelte";
  import { day } from "$lib/dates";
  import { keys } from "$lib/keys.svelte";
  import CalendarAddresses from "$lib/service/CalendarAddresses.svelte";
  import DueRow from "$lib/service/DueRow.svelte";
  import SeasonWeeks from "$lib/service/SeasonWeeks.svelte";
  import { session } from "$lib/session.svelte";
  import { tables } from "$lib/tables.svelte";

  let season = $state<Schema["SeasonAnswer"] | null>(null);
  let lines = $state<Schema["DueAnswerLine"][]>([]);
  let more = $state(false);
  let picked = $state<string | null>(null);
  let lowUseFirst = $state(false);
  let filter = $state({ place: "", kind: "", task: "", technician: "" });
  let failed = $state<string[]>([]);
  let planned = $state("");

  const query = $derived(Object.fromEntries(Object.entries(filter).filter(([, value]) => value !== "")));
  const tasks = [
    { code: "stop", name: "stops" },
    { code: "sweep", name: "sweeps" },
    { code: "inspection", name: "inspections" },
    { code: "look-again", name: "parts to look at again" },
    { code: "part", name: "parts not seen lately" },
  ];
  const week = $derived(season?.weeks.find((w) => w.monday === picked) ?? null);

  async function loadWeeks() {
    const answer = await reply(api.GET("/api/season", { params: { query } }));
    failed = refusals(answer);
    if (answer.kind === "ok") season = answer.data;
  }

  let asked = 0;
  async function loadLines(offset: number) {
    const mine = ++asked;
    const asks = { ...query, week: picked ?? undefined, lowUseFirst, offset };
    const answer = await reply(api.GET("/api/season/due", { params: { query: asks } }));
    if (answer.kind !== "ok" || mine !== asked) return;
    lines = offset === 0 ? answer.data.lines : [...lines, ...answer.data.lines];
    more = answer.data.more;
  }

  $effect(() => void loadWeeks());
  $effect(() => void loadLines(0));

  async function onplanned(what: string) {
    planned = what;
    await Promise.all([loadWeeks(), loadLines(0)]);
  }

  function move(by: number) {
    const weeks = season?.weeks ?? [];
    const next = weeks[weeks.findIndex((w) => w.monday === picked) + by];
    if (next) picked = next.monday;
  }

  $effect(() => {
    keys.page = [
      { key: "ArrowRight", shown: "→", does: "next week", run: () => move(1) },
      { key: "ArrowLeft", shown: "←", does: "week before", run: () => move(-1) },
      { key: "a", does: "all weeks", run: () => (picked = null) },
    ];
    return () => (keys.page = []);
  });
</script>

<svelte:head><title>Season · Grate</title></svelte:head>

{#each failed as sentence, n (n)}<p role="alert" class="text-error p-6">{sentence}</p>{/each}
{#if season}
  <div class="p-6">
    <div class="flex flex-wrap items-end gap-3 max-sm:grid max-sm:grid-cols-2">
      <h1 class="text-2xl">Season</h1>
      <span class="mr-auto"
        >{#if session.person?.role !== "technician"}<a class="btn btn-sm min-h-11" href="/season/plan"
            >The season's plan</a
          >{/if}</span
      >
      <select class="select w-40 max-sm:w-full" aria-label="Place" bind:value={filter.place}>
        <option value="">every place</option>
        {#each season.places as place (place)}<option>{place}</option>{/each}
      </select>
      <select class="select w-48 max-sm:w-full" aria-label="Kind of stove" bind:value={filter.kind}>
        <option value="">every stove</option>
        {#each tables.all?.kinds ?? [] as kind (kind.code)}<option value={kind.code}>{kind.name}</option>{/each}
      </select>
      <select class="select w-48 max-sm:w-full" aria-label="Task" bind:value={filter.task}>
        <option value="">everything due</option>
        {#each tasks as task (task.code)}<option value={task.code}>{task.name}</option>{/each}
      </select>
      <select class="select w-44 max-sm:w-full" aria-label="Technician" bind:value={filter.technician}>
        <option value="">everybody's</option>
        {#each season.technicians as t (t.id)}<option value={t.id}>{t.name}</option>{/each}
      </select>
    </div>
    <div class="bg-base-100 border-base-300 mt-3 overflow-x-auto rounded-lg border p-3">
      <SeasonWeeks weeks={season.weeks} overdue={season.overdue} {picked} onpick={(monday) => (picked = monday)} />
    </div>
    <div class="mt-2">
      {#each season.sentences as sentence, i (i)}<SentenceLine {sentence} />{/each}
      {#if season.overdue.visits}
        <p>
          <span class="computed">{season.overdue.visits}</span>
          {season.overdue.visits === 1 ? "visit is" : "visits are"} overdue, {(season.overdue.minutes / 60).toFixed(0)} h;
          they count in this week.
        </p>
      {/if}
    </div>
    <section aria-labelledby="due" class="mt-4">
      <div class="flex flex-wrap items-center gap-3">
        <h2 id="due" class="text-lg">
          {week ? `Due in the week of ${day(week.monday)}` : "Due and not planned"}
        </h2>
        {#if week}<button class="btn btn-sm" onclick={() => (picked = null)}>All weeks</button>{/if}
        <label class="ml-auto flex items-center gap-2 text-sm"
          ><input type="checkbox" class="checkbox checkbox-sm" bind:checked={lowUseFirst} /> low use first</label
        >
        {#if session.person?.role !== "technician"}<a
            class="link text-sm"
            href="/api/season/due.csv?{new URLSearchParams(query)}"
            download>CSV</a
          >{/if}
      </div>
      <p role="status" class="text-success font-semibold">{planned}</p>
      <ul>
        {#each lines as due (`${due.line.applianceId}-${due.line.number}`)}
          <DueRow {due} technicians={season.technicians} today={season.today} {onplanned} />
        {:else}
          <li class="text-quiet py-3">Nothing is due here that is not planned.</li>
        {/each}
      </ul>
      {#if more}<button class="btn mt-2" onclick={() => loadLines(lines.length)}>More</button>{/if}
    </section>
    <CalendarAddresses technicians={season.technicians} />
  </div>
{:else if failed.length === 0}
  <p class="p-6"><span class="loading loading-dots" aria-label="Loading"></span></p>
{/if}
