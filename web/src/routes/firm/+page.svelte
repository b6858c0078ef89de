<script lang="ts">
  import { api, byField, headline, reply, type Schema } from "$lib/api/client";
  import People from "$lib/account/People.svelte";
  import Archive from "$lib/firm/Archive.svelte";
  import FirmFields from "$lib/firm/FirmFields.svelte";
  import MessageTexts from "$lib/firm/MessageTexts.svelte";
  import Invitations from "$lib/firm/Invitations.svelte";
  import { session } from "$lib/session.svelte";

  const mayWrite = $derived(session.person?.role === "owner");
  let kept = $state<Schema["FirmAnswer"] | null>(null);
  let firm = $state<Schema["FirmEntry"] | null>(null);
  let ways = $state<Schema["FirmWays"] | null>(null);
  let stations = $state<Schema["ClimateStation"][]>([]);
  let errors = $state<Record<string, string[]>>({});
  let failed = $state("");
  let saved = $state(false);

  function take(answer: Schema["FirmAnswer"]) {
    kept = answer;
    const { name, place, timeZone, inspectionMonths, serviceHoursWeek, contact } = answer.firm;
    firm = { name, place, timeZone, inspectionMonths, serviceHoursWeek, contact: contact ?? null };
    ways = answer.ways;
  }
  void reply(api.GET("/api/firm")).then((answer) => {
    failed = headline(answer);
    if (answer.kind === "ok") take(answer.data);
  });
  void reply(api.GET("/api/set-up")).then((answer) => {
    if (answer.kind === "ok") stations = answer.data.stations;
  });

  async function save(event: SubmitEvent) {
    event.preventDefault();
    const answer = await reply(
      api.PUT("/api/firm", { body: { baseVersion: kept!.version, firm: { ...firm!, ways } } }),
    );
    errors = byField(answer);
    failed = headline(answer);
    saved = answer.kind === "ok";
    if (answer.kind === "ok") {
      take(answer.data);
      await session.load();
    }
    // What somebody else wrote is what the next save starts from; what was typed stays.
    if (answer.kind === "problem" && answer.status === 409) kept = answer.problem.stored as Schema["FirmAnswer"];
  }
</script>

<svelte:head><title>Firm · Grate</title></svelte:head>

<div class="bg-base-100 border-base-300 m-6 max-w-4xl rounded-lg border p-6 max-sm:m-3 max-sm:p-4">
  <div class="flex flex-wrap items-baseline gap-x-4">
    <h1 class="text-2xl">{kept?.firm.name ?? "Firm"}</h1>
    <a class="link ml-auto" href="/troubles">What troubles really were</a>
  </div>
  {#if firm && ways}
    <form class="mt-4" onsubmit={save} novalidate>
      <FirmFields
        {firm}
        {ways}
        {stations}
        {errors}
        disabled={!mayWrite}
        onchange={(f, w) => {
          [firm, ways] = [f, w];
          saved = false;
        }}
      />
      {#if failed}<p role="alert" class="text-error mt-4">{failed}</p>{/if}
      {#if mayWrite}
        <div class="mt-6 flex flex-wrap items-center gap-4">
          <button class="btn btn-primary min-h-11">Keep it</button>
          {#if saved}<span role="status">Kept.</span>{/if}
        </div>
      {:else}<p class="text-quiet mt-4">The owner changes this.</p>{/if}
    </form>
  {:else if failed}<p role="alert" class="text-error">{failed}</p>
  {:else}<span class="loading loading-dots" aria-label="Loading"></span>{/if}
  {#if mayWrite}
    <People />
    <Invitations />
    <MessageTexts />
    <Archive />
  {/if}
</div>
