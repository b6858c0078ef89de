<script lang="ts">
  import { api, reply, refusals, type Schema } from "$lib/api/client";
  import Choices from "$lib/components/Choices.svelte";
  import { dayOf } from "$lib/dates";
  import { session } from "$lib/session.svelte";
  import { settings } from "$lib/settings.svelte";
  import AddPiece from "$lib/stock/AddPiece.svelte";
  import Cuts from "$lib/stock/Cuts.svelte";
  import Offers from "$lib/stock/Offers.svelte";
  import PieceRow from "$lib/stock/PieceRow.svelte";
  import { amountOf } from "$lib/stock/kinds";
  import { tables } from "$lib/tables.svelte";

  let stock = $state<Schema["StockAnswer"] | null>(null);
  let failed = $state<string[]>([]);
  let picked = $state<string | null>(null);
  let days = $state<"1" | "7">("1");
  let from = $state("");

  const own = $derived(session.person?.role === "technician" ? session.person.id : null);
  // The store has no technician: its word is empty.
  const places = $derived([
    ...(stock?.vans.map((v) => ({ code: v.id, name: v.name })) ?? []),
    { code: "", name: "Store" },
  ]);
  const place = $derived(picked ?? own ?? places[0]?.code ?? "");
  const pieces = $derived(stock?.pieces.filter((p) => (p.piece.vanId ?? "") === place) ?? []);
  const mayChange = $derived(own === null || place === "" || place === own);
  const van = $derived(place || own || stock?.vans[0]?.id || "");
  const vanName = (id: string | null | undefined) => places.find((p) => p.code === (id ?? ""))?.name ?? "a former van";

  async function load() {
    const answer = await reply(api.GET("/api/stock", { params: { query: { units: settings.system } } }));
    failed = refusals(answer);
    if (answer.kind === "ok") stock = answer.data;
  }
  $effect(() => void load());

  async function today() {
    const answer = await reply(api.GET("/api/season", { params: { query: {} } }));
    if (answer.kind === "ok" && from === "") from = answer.data.today;
  }
  $effect(() => void today());
</script>

<svelte:head><title>Stock · Grate</title></svelte:head>

{#each failed as sentence, n (n)}<p role="alert" class="text-error p-6">{sentence}</p>{/each}
{#if stock}
  <div class="mx-auto max-w-5xl p-6 max-sm:p-3">
    <div class="flex flex-wrap items-center gap-4">
      <h1 class="text-2xl">Stock</h1>
      <a class="link mr-auto" href="/parts">Wanted and ordered</a>
      <Choices label="Van or store" options={places} value={place} onchange={(code) => (picked = code)} />
    </div>
    <section aria-labelledby="there" class="bg-base-100 border-base-300 mt-4 rounded-lg border p-4">
      <h2 id="there" class="mb-2 text-lg">{place === "" ? "In the store" : `In the van of ${vanName(place)}`}</h2>
      <ul>
        {#each pieces as named (named.piece.id)}
          <PieceRow
            {named}
            vans={places.map((p) => ({ id: p.code, name: p.name }))}
            {mayChange}
            today={stock.today}
            onchanged={(changed) => (stock = changed)}
          />
        {:else}
          <li class="text-quiet py-2">Nothing lies here.</li>
        {/each}
      </ul>
      {#if mayChange}
        <div class="mt-4"><AddPiece vanId={place || null} onchanged={(changed) => (stock = changed)} /></div>
      {/if}
    </section>
    {#if van && from}
      <section aria-labelledby="cuts" class="bg-base-100 border-base-300 mt-4 rounded-lg border p-4">
        <div class="mb-2 flex flex-wrap items-center gap-4">
          <h2 id="cuts" class="mr-auto text-lg">What to cut for {vanName(van)}</h2>
          <input type="date" class="input min-h-11 w-40" aria-label="From" required bind:value={from} />
          <Choices
            label="For"
            options={[
              { code: "1", name: "Day" },
              { code: "7", name: "Week" },
            ]}
            value={days}
            onchange={(code) => (days = code)}
          />
        </div>
        <Cuts
          of={{ technicianId: van, day: from, days: Number(days) }}
          vanId={van}
          stamp={stock.pieces}
          disabled={own !== null && van !== own}
          oncut={load}
        />
      </section>
    {/if}
    <section aria-labelledby="offers" class="bg-base-100 border-base-300 mt-4 rounded-lg border p-4">
      <h2 id="offers" class="mb-2 text-lg">Catalogue: what can be bought</h2>
      <Offers
        offers={stock.offers}
        mayChange={session.person?.role !== "technician"}
        onchanged={(changed) => (stock = changed)}
      />
    </section>
    <section aria-labelledby="log" class="mt-4 p-4">
      <h2 id="log" class="mb-2 text-lg">What happened</h2>
      <ul class="text-sm">
        {#each stock.log as { line, name }, i (i)}
          <li class="border-base-300 flex flex-wrap gap-x-3 border-b py-1">
            <span class="text-quiet w-24">{dayOf(line.at)}</span>
            <span class="grow"
              >{name}: {tables.word("stockMove", line.move).toLowerCase()}{line.note ? `, ${line.note}` : ""}; {amountOf(
                line.kind,
                line.before,
              )} → {amountOf(line.kind, line.after)}</span
            >
            <span class="text-quiet">{vanName(line.vanId)} · {line.by}</span>
          </li>
        {:else}
          <li class="text-quiet">Nothing yet.</li>
        {/each}
      </ul>
    </section>
  </div>
{:else if failed.length === 0}
  <p class="p-6"><span class="loading loading-dots" aria-label="Loading"></span></p>
{/if}
