<script lang="ts">
  import { api, headline, reply, refusals, type Schema } from "../api/client";
  import { day } from "../dates";
  import { session } from "../session.svelte";
  import { settings } from "../settings.svelte";
  import { amountOf } from "./kinds";

  let batch = $state("");
  let found = $state<Schema["RecallAnswer"] | null>(null);
  let failed = $state<string[]>([]);

  async function search(event: Event) {
    event.preventDefault();
    const query = { batch, units: settings.system };
    const answer = await reply(api.GET("/api/parts/recall", { params: { query } }));
    failed = refusals(answer);
    if (failed.length === 0 && headline(answer)) failed = [headline(answer)];
    found = answer.kind === "ok" ? answer.data : null;
  }
</script>

<section aria-labelledby="recall" class="bg-base-100 border-base-300 mt-4 rounded-lg border p-4">
  <h2 id="recall" class="text-lg">A batch that is called back</h2>
  <form class="mt-2 flex flex-wrap items-end gap-3" onsubmit={search}>
    <label class="text-quiet flex flex-col text-sm"
      >Batch or serial
      <input class="input min-h-11 w-60" maxlength="60" required bind:value={batch} /></label
    >
    <button class="btn min-h-11">Find every stove</button>
  </form>
  {#each failed as sentence, n (n)}<p role="alert" class="text-error text-sm">{sentence}</p>{/each}
  {#if found}
    <p role="status" class="mt-2">{found.sentence}</p>
    <ul>
      {#each found.stoves as stove, i (i)}
        <li class="border-base-300 border-b py-1">
          <a class="link font-semibold" href="/stoves/{stove.applianceId}">{stove.street}, {stove.place}</a>
          <span class="text-quiet"
            >{stove.customer}{stove.phone ? ` · ${stove.phone}` : ""} · {stove.name}, since {day(stove.fittedOn)}</span
          >
        </li>
      {/each}
      {#each found.pieces as { piece, name } (piece.id)}
        <li class="border-base-300 border-b py-1">
          {amountOf(piece.kind, piece.amount)} of {name}
          <span class="text-quiet"
            >{piece.vanId ? (piece.vanId === session.person?.id ? "in your van" : "in a van") : "in the store"}</span
          >
        </li>
      {/each}
    </ul>
  {/if}
</section>
