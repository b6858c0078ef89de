<script lang="ts">
  import { api, failure, page as pageOf, type Schema } from "$lib/api/client";
  import { dayOf, onScale } from "$lib/dates";
  import Failure from "$lib/components/Failure.svelte";
  import Mark from "$lib/components/Mark.svelte";
  import { session } from "$lib/session.svelte";
  import { settings } from "$lib/settings.svelte";
  import Inbox from "$lib/service/Inbox.svelte";
  import LoadList from "$lib/service/LoadList.svelte";
  import Round from "$lib/service/Round.svelte";
  import RunningLate from "$lib/service/RunningLate.svelte";

  let today = $state<Schema["TodayAnswer"] | null>(null);
  let failed = $state("");

  async function load() {
    const units = settings.system;
    const answer = await pageOf("today", api.GET("/api/today", { params: { query: { units } } }));
    failed = failure(answer);
    if (answer.kind === "ok") today = answer.data;
  }
  $effect(() => void load());
  // What comes from outside shows without a reload.
  $effect(() => {
    const again = setInterval(() => document.visibilityState === "visible" && void load(), 60_000);
    return () => clearInterval(again);
  });

  const time = (iso: string) =>
    new Date(iso).toLocaleTimeString("en-GB", { hour: "2-digit", minute: "2-digit", timeZone: today!.timeZone });
  const next = $derived(today?.stops.find((s) => s.stop.state === "open"));
  const technicians = $derived([...new Set(today?.stops.map((s) => s.stop.technician))]);
</script>

<svelte:head><title>Today · Grate</title></svelte:head>

<Failure sentence={failed} />
{#if today}
  <div class="mx-auto max-w-5xl p-6">
    <h1 class="text-2xl">
      {new Date(onScale(today.day)).toLocaleDateString("en-GB", {
        weekday: "long",
        day: "numeric",
        month: "long",
        timeZone: "UTC",
      })}
    </h1>
    <Inbox lines={today.inbox} emergencyNumber={today.emergencyNumber} {time} onseen={load} />
    {#each today.faults as fault (fault.applianceId)}
      <p role="alert" class="border-error mt-3 border-l-8 px-4 py-2">
        What is due for <a class="link" href="/stoves/{fault.applianceId}">{fault.street}, {fault.place}</a>
        ({fault.model}) could not be computed since {dayOf(fault.since)}; all other stoves were. For whoever mends it: {fault.reason}
      </p>
    {/each}
    {#if next && technicians.length === 1}
      <section class="bg-base-100 border-primary mt-4 border-l-8 p-5" aria-labelledby="next-door">
        <p class="text-quiet" id="next-door">Next door to knock on, {time(next.stop.plannedStart)}</p>
        <p class="font-display text-3xl font-bold">{next.stop.street}, {next.stop.place}</p>
        <p class="text-lg">{next.stop.customer} · {next.stop.model}, {next.stop.year} · {next.stop.purpose}</p>
        {#if next.stop.complaint}<p class="mt-1">“{next.stop.complaint}”</p>{/if}
        {#if next.stop.stops > 0}<p class="text-error mt-1 font-semibold">
            <Mark condition="unsafe" /> No fire until cleared
          </p>{/if}
        <p class="mt-2">
          Its flue should pull <span class="computed">{next.expectedDraft}</span> at normal fire: {next.weather} by the weather
          report.
        </p>
        {#if next.warning}<p class="border-primary border-l-4 pl-2 font-semibold">{next.warning}</p>{/if}
        <p class="text-quiet">From the van: {next.fromTheVan.join(", ")}</p>
        <a class="btn btn-primary btn-lg mt-3" href="/visits/{next.stop.visitId}"
          >{next.stop.stepsDone > 0 ? "Go on" : "Open the visit"}</a
        >
      </section>
    {/if}
    {#each technicians as technician (technician)}
      <Round
        title={technician === session.person?.name ? "Your round" : technician}
        stops={today.stops.filter((s) => s.stop.technician === technician)}
        timeZone={today.timeZone}
      />
    {:else}
      <p class="text-quiet mt-6">No stops today. <a class="link" href="/stoves">Look up a stove</a> instead.</p>
    {/each}
    {#if next && session.person?.role === "technician"}<RunningLate />{/if}
    {#if session.person?.role === "technician"}
      {@const open = today.stops.filter((s) => s.stop.state === "open")}
      <LoadList stops={open} day={today.day} title="From the van today" />
    {/if}
    {#if today.tomorrow.length}
      <Round title="Tomorrow" stops={today.tomorrow} timeZone={today.timeZone} withNames={technicians.length > 1} />
    {/if}
  </div>
{:else if !failed}
  <p class="p-6"><span class="loading loading-dots" aria-label="Loading"></span></p>
{/if}
