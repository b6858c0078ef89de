<script lang="ts">
  import { goto } from "$app/navigation";
  import { page } from "$app/state";
  import { api, byField, failure, headline, page as pageOf, reply, type Reply, type Schema } from "$lib/api/client";
  import Failure from "$lib/components/Failure.svelte";
  import Correct from "$lib/books/Correct.svelte";
  import Fields from "$lib/books/Fields.svelte";
  import { stove as stoveTold, usualFlue, who } from "$lib/books/fields";
  import HouseFields from "$lib/books/HouseFields.svelte";
  import Passing from "$lib/books/Passing.svelte";
  import StoveFields from "$lib/books/StoveFields.svelte";
  import WhoFields from "$lib/books/WhoFields.svelte";
  import { dayOf } from "$lib/dates";
  import { session } from "$lib/session.svelte";
  import { settings } from "$lib/settings.svelte";
  import { uuid7 } from "$lib/uuid";

  type Books = Schema["BookedHousehold"];
  const id = $derived(page.params.id!);
  const mayWrite = $derived(session.person?.role !== "technician");
  const query = $derived({ units: settings.system });
  let books = $state<Books | null>(null);
  let failed = $state("");
  let refused = $state<{ of: string; errors: Record<string, string[]>; sentence: string } | null>(null);
  let kept = $state("");
  let adding = $state<{ house: string; id: string; stove: Schema["NewStove"] } | null>(null);

  async function load() {
    const answer = await pageOf(`household.${id}`, api.GET("/api/households/{id}", { params: { path: { id } } }));
    failed = failure(answer);
    if (answer.kind === "ok") books = answer.data;
  }
  $effect(() => {
    books = null;
    void load();
  });

  // What was typed stays until it is kept; what somebody else wrote is shown beside it.
  async function send(of: string, request: Promise<Reply<Books>>): Promise<boolean> {
    const answer = await request;
    kept = answer.kind === "ok" ? of : "";
    refused = answer.kind === "ok" ? null : { of, errors: byField(answer), sentence: headline(answer) };
    if (answer.kind === "ok") books = answer.data;
    else if (answer.kind === "problem" && answer.status === 409 && answer.problem.stored)
      books = answer.problem.stored as Books;
    return answer.kind === "ok";
  }
  const errorsOf = (of: string) => (refused?.of === of ? refused.errors : {});

  const keepCustomer = (customer: Schema["Customer"], baseVersion: number) =>
    send(
      "customer",
      reply(api.PUT("/api/households/{id}", { params: { path: { id } }, body: { baseVersion, customer } })),
    );
  const keepHouse = (house: Schema["House"], baseVersion: number) =>
    send(
      house.id,
      reply(
        api.PUT("/api/households/{id}/houses/{houseId}", {
          params: { path: { id, houseId: house.id }, query },
          body: { baseVersion, house },
        }),
      ),
    );
  const keepStove = (stove: Schema["Stove"], serial: string, baseVersion: number) =>
    send(
      stove.id,
      reply(
        api.PUT("/api/households/{id}/stoves/{stoveId}", {
          params: { path: { id, stoveId: stove.id }, query },
          body: { baseVersion, stove, serial },
        }),
      ),
    );
  const takeOut = (stoveId: string, why: string) =>
    send(
      stoveId,
      reply(
        api.POST("/api/households/{id}/stoves/{stoveId}/out", { params: { path: { id, stoveId } }, body: { why } }),
      ),
    );
  const replace = (stoveId: string, newId: string, stove: Schema["NewStove"]) =>
    send(
      stoveId,
      reply(
        api.POST("/api/households/{id}/stoves/{stoveId}/replace", {
          params: { path: { id, stoveId }, query },
          body: { id: newId, stove },
        }),
      ),
    );
  async function addStove() {
    const { house: houseId, id: stoveId, stove } = adding!;
    const done = await send(
      `new.${houseId}`,
      reply(
        api.POST("/api/households/{id}/houses/{houseId}/stoves", {
          params: { path: { id, houseId }, query },
          body: { id: stoveId, stove },
        }),
      ),
    );
    if (done) adding = null;
  }
</script>

<svelte:head><title>{books?.customer.name ?? "Household"} · Grate</title></svelte:head>

<Failure sentence={failed} />
{#snippet outcome(of: string)}
  {#if refused?.of === of}<p role="alert" class="text-error mt-2 text-sm">{refused.sentence}</p>{/if}
  {#if kept === of}<p role="status" class="mt-2 text-sm">Kept.</p>{/if}
{/snippet}
{#if books}
  <div class="mx-auto max-w-5xl p-6 max-sm:p-3">
    <div class="flex flex-wrap items-baseline gap-x-4">
      <h1 class="text-2xl">{books.customer.name}</h1>
      <span class="text-quiet">{books.customer.phone}</span>
    </div>
    {#if books.joinedInto}
      <p class="border-primary mt-2 border-l-4 pl-3">
        This record was joined into <a class="link" href="/households/{books.joinedInto}"
          >another one of the same household</a
        >.
      </p>
    {/if}
    {#if books.forgottenAt}<p class="border-primary mt-2 border-l-4 pl-3">
        Forgotten on {dayOf(books.forgottenAt)}: what was measured stays with the flue.
      </p>{/if}
    {#each books.before as before (before.id + before.until)}
      <p class="text-quiet mt-1 text-sm">
        Until {dayOf(before.until)} <a class="link" href="/households/{before.id}">{before.name}</a> lived here.
      </p>
    {/each}
    <section class="bg-base-100 border-base-300 mt-4 rounded-lg border p-4" aria-label="Household">
      {#key books.version}
        <Correct
          id={books.customer.id}
          value={books.customer}
          fields={who}
          prefix="customer-"
          errors={errorsOf("customer")}
          disabled={!mayWrite}
          keep={(c) => keepCustomer(c, books!.version)}
        >
          {#snippet more(now: Schema["Customer"], set: (change: Partial<Schema["Customer"]>) => void)}
            <WhoFields
              value={now}
              errors={errorsOf("customer")}
              disabled={!mayWrite}
              onchange={(change) => set(change as Partial<Schema["Customer"]>)}
            />
          {/snippet}
        </Correct>
      {/key}
      {@render outcome("customer")}
    </section>
    {#each books.houses as h (h.house.id)}
      <section class="mt-7" aria-label="{h.house.street}, {h.house.place}">
        <h2 class="text-xl">{h.house.street}, {h.house.place}</h2>
        <div class="mt-2 space-y-3">
          {#each h.stoves as s (s.stove.id)}
            <div class="bg-base-100 border-base-300 rounded-lg border p-4 {s.outAt ? 'opacity-70' : ''}">
              {#key s.version}
                <StoveFields
                  booked={s}
                  storeys={h.house.storeyNames}
                  errors={errorsOf(s.stove.id)}
                  disabled={!mayWrite || !!s.outAt}
                  keep={(stove, serial) => keepStove(stove, serial, s.version)}
                  takeOut={(why) => takeOut(s.stove.id, why)}
                  replace={(newId, stove) => replace(s.stove.id, newId, stove)}
                />
              {/key}
              {@render outcome(s.stove.id)}
            </div>
          {/each}
          {#if mayWrite}
            {#if adding?.house === h.house.id}
              <form
                class="border-primary border-l-4 pl-4"
                novalidate
                onsubmit={(e) => {
                  e.preventDefault();
                  void addStove();
                }}
              >
                <h3 class="mb-2">Another stove</h3>
                <Fields
                  fields={[...stoveTold(h.house.storeyNames, true), usualFlue()]}
                  value={adding.stove}
                  errors={errorsOf(`new.${h.house.id}`)}
                  onchange={(change) => (adding = { ...adding!, stove: { ...adding!.stove, ...change } })}
                />
                <div class="mt-3 flex gap-3">
                  <button class="btn btn-primary min-h-11">Write it down</button>
                  <button type="button" class="btn btn-ghost min-h-11" onclick={() => (adding = null)}>Leave it</button>
                </div>
                {@render outcome(`new.${h.house.id}`)}
              </form>
            {:else}
              <button
                class="btn min-h-11"
                onclick={() => (adding = { house: h.house.id, id: uuid7(), stove: { kind: "steel" } })}
                >Another stove in this house</button
              >
            {/if}
          {/if}
          <details class="bg-base-100 border-base-300 rounded-lg border p-4">
            <summary class="min-h-11 cursor-pointer py-2 text-lg">The house</summary>
            {#key h.version}
              <HouseFields
                booked={h}
                errors={errorsOf(h.house.id)}
                disabled={!mayWrite}
                keep={(house) => keepHouse(house, h.version)}
              />
            {/key}
            {@render outcome(h.house.id)}
          </details>
        </div>
      </section>
    {/each}
    {#if mayWrite && !books.joinedInto}
      <Passing
        {books}
        errors={errorsOf("passing")}
        send={(request) => send("passing", request)}
        onmoved={(to) => goto(`/households/${to}`)}
      />
      {@render outcome("passing")}
    {/if}
    {#if books.log.length}
      <section class="mt-7" aria-labelledby="log">
        <h2 id="log" class="text-lg">Written in the books</h2>
        <ul class="text-sm">
          {#each books.log as line (line.at + line.what)}
            <li class="border-base-300 border-b py-1">
              <span class="text-quiet">{dayOf(line.at)}, {line.by}:</span>
              {line.what}
            </li>
          {/each}
        </ul>
      </section>
    {/if}
  </div>
{:else if !failed}
  <p class="p-6"><span class="loading loading-dots" aria-label="Loading"></span></p>
{/if}
