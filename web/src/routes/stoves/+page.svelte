<script lang="ts">
  import { page } from "$app/state";
  import { api, failure, reply, type Schema } from "$lib/api/client";
  import Mark from "$lib/components/Mark.svelte";
  import { day } from "$lib/dates";
  import { session } from "$lib/session.svelte";
  import { tables } from "$lib/tables.svelte";

  let q = $state("");
  let found = $state<Schema["StovesAnswer"] | null>(null);
  let failed = $state("");
  let field = $state<HTMLInputElement>();

  $effect(() => {
    if (page.url.searchParams.has("search")) field?.focus();
  });

  let asked = 0;
  async function load(offset: number) {
    const mine = ++asked;
    const answer = await reply(api.GET("/api/stoves", { params: { query: { q, offset } } }));
    if (mine !== asked) return;
    failed = failure(answer);
    if (answer.kind !== "ok") return;
    found = offset === 0 || !found ? answer.data : { ...answer.data, stoves: [...found.stoves, ...answer.data.stoves] };
  }
  $effect(() => {
    void q;
    void load(0);
  });
  const overdue = (date: string) => date < found!.today;
</script>

<svelte:head><title>Stoves · Grate</title></svelte:head>

<div class="mx-auto max-w-6xl p-6">
  <div class="flex flex-wrap items-baseline gap-4">
    <h1 class="text-2xl">Stoves</h1>
    {#if session.person?.role !== "technician"}
      <a class="link ml-auto" href="/households/import">Bring in a list</a>
      <a class="btn min-h-11" href="/households/new">New household</a>
    {/if}
  </div>
  <label class="mt-3 block">
    <span class="text-quiet text-sm">Name, place, kind or model</span>
    <input
      class="input input-lg w-full"
      type="search"
      maxlength="100"
      autocomplete="off"
      bind:this={field}
      bind:value={q}
    />
  </label>
  {#if failed}<p role="alert" class="text-error mt-3">{failed}</p>{/if}
  {#if found}
    {#if found.stoves.length === 0}
      <p class="text-quiet mt-6">No stove has all of these words. Try fewer, or a part of one.</p>
    {:else}
      {#if found.near}<p role="status" class="text-quiet mt-4">Nothing is spelled so; these come near.</p>{/if}
      <div class="mt-4 overflow-x-auto">
        <table class="table">
          <thead>
            <tr><th>Household</th><th>Stove</th><th>Last visit</th><th>Inspection by</th></tr>
          </thead>
          <tbody>
            {#each found.stoves as { line: stove, lastVisit } (stove.id)}
              <tr class="hover:bg-base-100">
                <td>
                  <a class="font-semibold hover:underline" href="/stoves/{stove.id}">{stove.customer}</a>
                  <br /><span class="text-quiet">{stove.street}, {stove.place}</span>
                </td>
                <td>
                  {stove.model}, {stove.year}
                  <br /><span class="text-quiet">{tables.kindName(stove.kind, stove.combustor)}, {stove.room}</span>
                  {#if stove.stops > 0}<span class="text-error font-semibold"><Mark condition="unsafe" /> no fire</span
                    >{/if}
                </td>
                <td>{lastVisit ? day(lastVisit) : "never"}</td>
                <td>
                  {#if stove.nextInspection}
                    <span class="computed">{day(stove.nextInspection)}</span>
                    {#if overdue(stove.nextInspection)}<br /><span
                        class="decoration-primary text-sm font-semibold underline decoration-2">overdue</span
                      >{/if}
                  {:else}<span class="text-quiet">not set</span>{/if}
                </td>
              </tr>
            {/each}
          </tbody>
        </table>
      </div>
      {#if found.more}<button class="btn mt-3" onclick={() => load(found!.stoves.length)}>More</button>{/if}
    {/if}
  {:else if !failed}
    <p class="mt-6"><span class="loading loading-dots" aria-label="Loading"></span></p>
  {/if}
</div>
