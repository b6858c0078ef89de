<script lang="ts">
  import { api, reply, type Schema } from "$lib/api/client";
  import Mark from "$lib/components/Mark.svelte";
  import { session } from "$lib/session.svelte";
  import { settings } from "$lib/settings.svelte";
  import { tables } from "$lib/tables.svelte";

  let today = $state<Schema["TodayAnswer"] | null>(null);
  let failed = $state("");

  $effect(() => {
    const units = settings.system;
    void reply(api.GET("/api/today", { params: { query: { units } } })).then((answer) => {
      failed = answer.kind === "away" ? answer.sentence : answer.kind === "problem" ? (answer.problem.title ?? "") : "";
      if (answer.kind === "ok") today = answer.data;
    });
  });

  type Stop = Schema["TodayStop"];
  const time = (iso: string) =>
    new Date(iso).toLocaleTimeString("en-GB", { hour: "2-digit", minute: "2-digit", timeZone: today!.timeZone });
  const next = $derived(today?.stops.find((s) => s.stop.state === "open"));
  const technicians = $derived([...new Set(today?.stops.map((s) => s.stop.technician))]);
  const of = (technician: string) => today!.stops.filter((s) => s.stop.technician === technician);
  const progress = (s: Stop) =>
    s.stop.state === "signed" ? "signed" : s.stop.stepsDone > 0 ? `${s.stop.stepsDone} of 12 steps` : "";
</script>

<svelte:head><title>Today · Grate</title></svelte:head>

{#if failed}<p role="alert" class="text-error p-6">{failed}</p>{/if}
{#if today}
  <div class="mx-auto max-w-5xl p-6">
    <h1 class="text-2xl">
      {new Date(today.day).toLocaleDateString("en-GB", { weekday: "long", day: "numeric", month: "long" })}
    </h1>
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
          Its flue should pull <span class="computed">{next.expectedDraft}</span> at normal fire in an ordinary
          {new Date(today.day).toLocaleDateString("en-GB", { month: "long" })}.
        </p>
        <p class="text-quiet">From the van: {next.fromTheVan.join(", ")}</p>
        <a class="btn btn-primary btn-lg mt-3" href="/visits/{next.stop.visitId}"
          >{next.stop.stepsDone > 0 ? "Go on" : "Open the visit"}</a
        >
      </section>
    {/if}
    {#each technicians as technician (technician)}
      <section class="mt-6" aria-label="Round of {technician}">
        <h2 class="text-lg">{technician === session.person?.name ? "Your round" : technician}</h2>
        <ol class="border-base-300 relative ml-2 border-l-2">
          {#each of(technician) as s (s.stop.visitId)}
            <li class="relative py-2 pl-6">
              <span
                class="border-quiet bg-base-200 absolute top-4 -left-[7px] size-3 rounded-full border-2"
                class:bg-success={s.stop.state === "signed"}
                aria-hidden="true"
              ></span>
              <a
                class="hover:bg-base-100 grid grid-cols-[3.5rem_1fr_auto] gap-x-3 rounded-lg p-2"
                href="/visits/{s.stop.visitId}"
              >
                <span class="measured">{time(s.stop.plannedStart)}</span>
                <span>
                  <strong>{s.stop.street}, {s.stop.place}</strong>
                  <span class="text-quiet">{s.stop.customer}</span>
                  {#if s.stop.stops > 0}<span class="text-error font-semibold"><Mark condition="unsafe" /> no fire</span
                    >{/if}
                  <br />{tables.kindName(s.stop.kind, s.stop.combustor)} · {s.stop.purpose}
                  <br /><span class="text-quiet text-sm">{s.fromTheVan.join(", ")}</span>
                </span>
                <span class="text-right"
                  ><span class="computed">{s.expectedDraft}</span><br /><span class="text-quiet text-sm"
                    >{progress(s)}</span
                  ></span
                >
              </a>
            </li>
          {/each}
        </ol>
      </section>
    {:else}
      <p class="text-quiet mt-6">No stops today. <a class="link" href="/stoves">Look up a stove</a> instead.</p>
    {/each}
  </div>
{:else if !failed}
  <p class="p-6"><span class="loading loading-dots" aria-label="Loading"></span></p>
{/if}
