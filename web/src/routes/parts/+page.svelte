<script lang="ts">
  import { api, reply, refusals, type Reply, type Schema } from "$lib/api/client";
  import SentenceLine from "$lib/components/SentenceLine.svelte";
  import { day } from "$lib/dates";
  import { session } from "$lib/session.svelte";
  import { settings } from "$lib/settings.svelte";
  import Coming from "$lib/stock/Coming.svelte";
  import PartLife from "$lib/stock/PartLife.svelte";
  import Recall from "$lib/stock/Recall.svelte";
  import { amountOf } from "$lib/stock/kinds";
  import { uuid7 } from "$lib/uuid";

  type List = Schema["SupplierList"];
  let parts = $state<Schema["PartsAnswer"] | null>(null);
  let lives = $state<Schema["PartLife"][]>([]);
  let failed = $state<string[]>([]);
  let sending = $state(false);
  const first = 4;
  let all = $state(false);
  // One save for each list, until it was answered.
  let saves: Record<string, string> = {};

  const desk = $derived(session.person?.role !== "technician");
  const key = (list: List) => `${list.supplier}/${list.on}`;
  const query = $derived({ units: settings.system });

  function take(answer: Reply<Schema["PartsAnswer"]>) {
    failed = refusals(answer);
    if (answer.kind === "ok") parts = answer.data;
  }
  const load = async () => take(await reply(api.GET("/api/parts", { params: { query } })));
  $effect(() => void load());

  void reply(api.GET("/api/parts/lives")).then((answer) => {
    if (answer.kind === "ok") lives = answer.data;
  });

  async function order(list: List) {
    sending = true;
    const saveId = (saves[key(list)] ??= uuid7());
    const lines = list.lines.map((l) => ({ offerId: l.offerId, packs: l.packs }));
    const answer = await reply(api.POST("/api/parts/orders", { params: { query }, body: { saveId, lines } }));
    sending = false;
    if (answer.kind !== "away") delete saves[key(list)];
    take(answer);
  }
</script>

<svelte:head><title>Parts · Grate</title></svelte:head>

{#each failed as sentence, n (n)}<p role="alert" class="text-error p-6 pb-0">{sentence}</p>{/each}
{#if parts}
  <div class="mx-auto max-w-5xl p-6 max-sm:p-3">
    <div class="flex flex-wrap items-center gap-4">
      <h1 class="text-2xl">Parts</h1>
      <a class="link" href="/stock">Stock and catalogue</a>
    </div>
    <div class="mt-2" role="status">
      {#each parts.plan.sentences as sentence, i (i)}<SentenceLine {sentence} />{/each}
    </div>

    {#if parts.plan.lists.length}
      <section aria-labelledby="lists" class="mt-4">
        <h2 id="lists" class="mb-2 text-lg">To order</h2>
        <div class="grid grid-cols-2 gap-4 max-md:grid-cols-1">
          {#each parts.plan.lists.slice(0, all ? undefined : first) as list (key(list))}
            <div class="bg-base-100 border-base-300 rounded-lg border p-4" data-list={key(list)}>
              <div class="flex items-baseline gap-3">
                <h3 class="mr-auto font-semibold">{list.supplier || "Supplier not written down"}</h3>
                <span class="text-quiet text-sm">{list.on === parts.today ? "today" : `on ${day(list.on)}`}</span>
              </div>
              <ul class="my-2">
                {#each list.lines as line (line.offerId)}
                  <li class="flex gap-3 py-0.5">
                    <span class="computed w-8 text-right">{line.packs}</span><span class="grow">{line.name}</span>
                    <span class="text-right">{session.money(line.cost)}</span>
                  </li>
                {/each}
              </ul>
              <p class="border-base-300 flex border-t pt-1">
                <span class="mr-auto">In all</span><span class="font-semibold">{session.money(list.total)}</span>
              </p>
              {#if desk}
                <div class="mt-2 flex flex-wrap gap-2">
                  <button class="btn btn-primary min-h-11" disabled={sending} onclick={() => order(list)}
                    >Order it</button
                  >
                  <a
                    class="btn min-h-11"
                    download
                    href="/api/parts/list.csv?supplier={encodeURIComponent(list.supplier)}&on={list.on}">As CSV</a
                  >
                </div>
              {/if}
            </div>
          {/each}
        </div>
        {#if parts.plan.lists.length > first}
          <button class="btn btn-ghost mt-2 min-h-11" aria-expanded={all} onclick={() => (all = !all)}
            >{all ? "The next lists alone" : `All ${parts.plan.lists.length} lists`}</button
          >
        {/if}
      </section>
    {/if}

    {#if parts.coming.length}
      <section aria-labelledby="coming" class="bg-base-100 border-base-300 mt-4 rounded-lg border p-4">
        <h2 id="coming" class="mb-2 text-lg">Ordered, and not here yet</h2>
        <ul>
          {#each parts.coming as purchase (purchase.id)}
            <Coming {purchase} today={parts.today} vans={parts.vans} ontaken={take} />
          {/each}
        </ul>
      </section>
    {/if}

    <section aria-labelledby="wants" class="bg-base-100 border-base-300 mt-4 rounded-lg border p-4">
      <h2 id="wants" class="mb-2 text-lg">What stoves want</h2>
      <ul>
        {#each parts.plan.wants as met, i (i)}
          <li
            class="border-base-300 grid grid-cols-[6.5rem_1fr_1fr] gap-x-3 border-b py-1.5 max-sm:grid-cols-[6.5rem_1fr] {met.inTime
              ? ''
              : 'border-l-error border-l-4 pl-2'}"
          >
            <span class={met.want.visitId ? "" : "text-quiet"}>{day(met.want.needOn)}</span>
            <span
              >{#if met.want.kept}Stock{:else}<a
                  class="link"
                  href={met.want.visitId ? `/visits/${met.want.visitId}` : `/stoves/${met.want.stoveId}`}
                  >{met.want.household}</a
                >{/if}: <span class="font-semibold">{met.want.part.what}</span>{met.want.part.amount
                ? `, ${amountOf(met.want.part.kind, met.want.part.amount)}`
                : ""}<span class="text-quiet block text-sm">{met.want.part.why}</span></span
            >
            <span class="max-sm:col-start-2"><SentenceLine sentence={met.sentence} /></span>
          </li>
        {:else}
          <li class="text-quiet py-2">
            Nothing: what visits find spent, ordered or too short appears here, with the day it is for.
          </li>
        {/each}
      </ul>
    </section>

    <Recall />

    {#if lives.length}
      <section aria-labelledby="lives" class="bg-base-100 border-base-300 mt-4 rounded-lg border p-4">
        <h2 id="lives" class="text-lg">How long parts last here</h2>
        <p class="text-quiet text-sm">
          Across: years since it was fitted. Up: per cent still good, with the band of 95 %. Usual life of a rope: 3 to
          5 seasons.
        </p>
        <div class="mt-2 grid gap-6 sm:grid-cols-2">
          {#each lives as life (life.part)}<PartLife {life} />{/each}
        </div>
      </section>
    {/if}
  </div>
{:else if failed.length === 0}
  <p class="p-6"><span class="loading loading-dots" aria-label="Loading"></span></p>
{/if}
