<script lang="ts">
  import { page } from "$app/state";
  import { goto } from "$app/navigation";
  import { api, failure, page as pageOf, reply, type Schema } from "$lib/api/client";
  import Failure from "$lib/components/Failure.svelte";
  import { day as said, onScale } from "$lib/dates";
  import { keys } from "$lib/keys.svelte";
  import { session } from "$lib/session.svelte";
  import Absences from "$lib/week/Absences.svelte";
  import DayWall from "$lib/week/DayWall.svelte";
  import LookBacks from "$lib/week/LookBacks.svelte";
  import { minuteOf, move, planOf, type Against, type Plan } from "$lib/week/plan";
  import TellHousehold from "$lib/week/TellHousehold.svelte";
  import VisitPlan from "$lib/week/VisitPlan.svelte";
  import WaitingCalls from "$lib/week/WaitingCalls.svelte";

  type Visit = Schema["WeekVisit"];
  let week = $state<Schema["WeekAnswer"] | null>(null);
  let failed = $state("");
  let told = $state("");
  // A visit that was just cancelled: its household is told from here, it has no brick any more.
  let cancelled = $state<string | null>(null);
  let picked = $state<string | null>(null);
  let dropped = $state<{ plan: Plan; refused: Against } | null>(null);

  const asked = $derived(page.url.searchParams.get("day"));
  const desk = $derived(session.person?.role !== "technician");

  async function load() {
    const query = asked ? { day: asked } : {};
    const answer = await pageOf(`week.${asked ?? ""}`, api.GET("/api/week", { params: { query } }));
    failed = failure(answer);
    if (answer.kind === "ok") week = answer.data;
  }
  $effect(() => void load());

  const plus = (date: string, days: number) => new Date(onScale(date) + days * 864e5).toISOString().slice(0, 10);
  const chosen = $derived(asked ?? week?.today ?? "");
  const days = $derived(
    week
      ? Array.from({ length: 7 }, (_, i) => plus(week!.monday, i)).filter(
          (d) => week!.workDays.includes(d) || d === chosen || visitsOn(d).length,
        )
      : [],
  );
  const visitsOn = (date: string) => week!.visits.filter((v) => v.day === date);
  const hoursOf = (visits: Visit[]) => visits.reduce((sum, v) => sum + minuteOf(v.to) - minuteOf(v.from), 0) / 60;
  const short = (date: string) =>
    new Date(onScale(date)).toLocaleDateString("en-GB", { weekday: "short", day: "numeric", timeZone: "UTC" });
  const go = (date: string) => goto(`/week?day=${date}`, { noScroll: true, keepFocus: true });
  const visit = $derived(week?.visits.find((v) => v.stop.visitId === picked) ?? null);

  $effect(() => {
    keys.page = [
      { key: "ArrowLeft", shown: "←", does: "the day before", run: () => go(plus(chosen, -1)) },
      { key: "ArrowRight", shown: "→", does: "the day after", run: () => go(plus(chosen, 1)) },
    ];
    return () => (keys.page = []);
  });

  async function changed(sentence: string, day?: string) {
    [told, picked, dropped, cancelled] = [sentence, null, null, null];
    // Another day is read because its address changes.
    if (day && day !== chosen) await go(day);
    else await load();
  }

  async function gone(v: Visit) {
    await changed(`${v.stop.street}: cancelled.`);
    cancelled = v.stop.visitId;
  }

  // Drives and waiting of the whole day, before it is let go.
  async function costOf(v: Visit, technicianId: string, time: string) {
    const place = { visitId: v.stop.visitId, technicianId, day: v.day, fromMin: minuteOf(time) };
    const answer = await reply(api.POST("/api/rounds/cost", { body: place }));
    return answer.kind === "ok" ? answer.data.sentence : "";
  }

  // A drop that is unusual or does not fit is asked back below, where it can be put right.
  async function drop(v: Visit, technicianId: string, time: string) {
    const plan = { ...planOf(v), technicianId, time };
    const refused = await move(v, plan, false);
    if (!refused) return changed(`${v.stop.street}: ${time}, planned.`);
    [dropped, picked] = [{ plan, refused }, v.stop.visitId];
  }
</script>

<svelte:head><title>Week · Grate</title></svelte:head>

<Failure sentence={failed} />
{#if week}
  <header class="border-base-300 flex flex-wrap items-baseline gap-x-4 border-b px-6 py-3">
    <h1 class="text-2xl">Week of {said(week.monday)}</h1>
    <span class="text-quiet"
      >{week.technicians.length} technicians,
      <span class="computed">{hoursOf(week.visits).toFixed(0)} hours</span> laid{desk
        ? `, ${week.calls.length} loose`
        : ""}</span
    >
    <span class="ml-auto flex flex-wrap gap-2">
      <a class="btn btn-sm min-h-11" href="/week/round?day={chosen}">The day's round</a>
      <a class="btn btn-sm min-h-11" href="/week?day={plus(chosen, -7)}">Earlier</a>
      <a class="btn btn-sm min-h-11" href="/week">This week</a>
      <a class="btn btn-sm min-h-11" href="/week?day={plus(chosen, 7)}">Later</a>
    </span>
  </header>
  <div class="grid gap-6 p-6 max-sm:p-3 {desk ? 'lg:grid-cols-[17rem_minmax(0,1fr)]' : ''}">
    {#if desk}
      <div class="max-lg:order-2">
        <WaitingCalls
          calls={week.calls}
          technicians={week.technicians}
          today={week.today}
          day={chosen}
          onchanged={changed}
        />
        <LookBacks calls={week.lookBacks} onchanged={load} />
        <Absences away={week.away} technicians={week.technicians} day={chosen} onchanged={load} />
      </div>
    {/if}
    <div class="min-w-0 space-y-6">
      <nav class="grid grid-cols-3 gap-3 sm:grid-cols-5" aria-label="Days">
        {#each days as date (date)}
          {@const own = visitsOn(date)}
          <a
            href="/week?day={date}"
            data-sveltekit-noscroll
            aria-current={date === chosen ? "date" : undefined}
            class="border-base-300 aria-[current]:border-primary aria-[current]:bg-base-100 rounded-lg border-2 p-2"
          >
            <span class="flex justify-between"
              ><strong>{short(date)}</strong><span class="computed text-sm">{hoursOf(own).toFixed(0)} h</span></span
            >
            <span class="mt-1 block space-y-1" aria-hidden="true">
              {#each week.technicians as t (t.id)}
                <span class="relative block h-3">
                  {#each own.filter((v) => v.stop.technicianId === t.id) as v (v.stop.visitId)}
                    <span
                      class="bg-brick border-base-content absolute inset-y-0 border"
                      style="left:{((minuteOf(v.from) - 420) / 660) * 100}%;width:{((minuteOf(v.to) -
                        minuteOf(v.from)) /
                        660) *
                        100}%"
                    ></span>
                  {/each}
                </span>
              {/each}
            </span>
            <span class="sr-only">{own.length} visits</span>
          </a>
        {/each}
      </nav>
      {#if told}<p role="status">{told}</p>{/if}
      {#if cancelled}<TellHousehold id={cancelled} kinds={["cancelled"]} ontold={() => {}} />{/if}
      <DayWall
        visits={visitsOn(chosen)}
        technicians={week.technicians}
        ways={week.ways}
        away={week.away.filter((a) => a.firstDay <= chosen && a.lastDay >= chosen)}
        {picked}
        movable={desk}
        onpick={(v) => ([picked, dropped] = [v.stop.visitId, null])}
        ondrop={drop}
        {costOf}
      />
      {#if visit}
        {#key [visit.stop.visitId, visit.stop.planVersion, dropped]}
          <VisitPlan
            {visit}
            technicians={week.technicians}
            today={week.today}
            movable={desk}
            {dropped}
            onchanged={changed}
            oncancelled={() => gone(visit)}
          />
        {/key}
      {:else}
        <p class="text-quiet text-sm">
          A brick is a visit, as long as it takes; the joint between two is the drive. {week.roads}
          {desk ? "Drag it, or pick it and say where it goes." : ""}
        </p>
      {/if}
    </div>
  </div>
{:else if !failed}
  <p class="p-6"><span class="loading loading-dots" aria-label="Loading"></span></p>
{/if}
