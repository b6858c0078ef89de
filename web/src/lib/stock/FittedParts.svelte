<script lang="ts">
  import { api, byField, failure, headline, reply, type Reply, type Schema } from "../api/client";
  import SentenceLine from "../components/SentenceLine.svelte";
  import TextField from "../components/TextField.svelte";
  import { day } from "../dates";
  import { tables } from "../tables.svelte";
  import { uuid7 } from "../uuid";
  import KindField from "./KindField.svelte";

  interface Props {
    stoveId: string;
    /** Told which parts of the drawing are past their life. */
    onpast?: (parts: string[]) => void;
  }
  let { stoveId, onpast }: Props = $props();

  let fitted = $state<Schema["FittedAnswer"] | null>(null);
  let failed = $state("");
  let errors = $state<Record<string, string[]>>({});
  let adding = $state(false);
  let sending = $state(false);
  let kind = $state<Schema["StockKind"]>("rope");
  let name = $state("");
  let batch = $state("");
  let fittedOn = $state("");
  let warrantyUntil = $state("");
  let id = uuid7();

  function take(answer: Reply<Schema["FittedAnswer"]>) {
    failed = failure(answer) || headline(answer);
    errors = byField(answer);
    if (answer.kind !== "ok") return;
    fitted = answer.data;
    const bars = [...fitted.noted.flatMap((n) => (n.bar ? [n.bar] : [])), ...fitted.fromVisits];
    onpast?.(bars.filter((b) => (b.share ?? 0) > 1 && b.part !== "").map((b) => b.part));
  }
  const path = $derived({ id: stoveId });
  $effect(() => void reply(api.GET("/api/stoves/{id}/parts", { params: { path } })).then(take));

  async function fit(event: Event) {
    event.preventDefault();
    sending = true;
    const body = { id, kind, name, batch, fittedOn: fittedOn || null, warrantyUntil: warrantyUntil || null };
    const answer = await reply(api.POST("/api/stoves/{id}/parts", { params: { path }, body }));
    sending = false;
    if (answer.kind !== "away") id = uuid7();
    take(answer);
    if (answer.kind === "ok") [adding, name, batch, warrantyUntil] = [false, "", "", ""];
  }

  const gone = async (partId: string) =>
    take(await reply(api.POST("/api/stoves/{id}/parts/{partId}/gone", { params: { path: { ...path, partId } } })));

  function begin() {
    fittedOn ||= fitted?.today ?? "";
    adding = true;
  }
</script>

{#snippet bar(life: Schema["LifeBar"])}
  {#if life.share != null}
    <svg
      viewBox="0 0 200 10"
      class="h-3 w-full max-w-60"
      role="img"
      aria-label="{Math.round(100 * life.share)} % of its life"
    >
      <rect width="200" height="10" rx="3" class="fill-base-300" />
      <rect
        width={Math.min(200, 200 * life.share)}
        height="10"
        rx="3"
        class={life.share > 1 ? "fill-error" : "fill-secondary"}
      />
    </svg>
  {/if}
  <SentenceLine sentence={life.sentence} />
{/snippet}

<section aria-labelledby="fitted">
  <h2 id="fitted" class="text-lg">Parts and their lives</h2>
  {#if fitted}
    <ul>
      {#each fitted.noted as { part, bar: life } (part.id)}
        <li class="border-base-300 flex flex-wrap items-center gap-x-4 border-b py-2 {life ? '' : 'text-quiet'}">
          <div class="grow">
            {#if life}{@render bar(life)}{:else}{part.name}: fitted {day(part.fittedOn)}, out since {day(
                part.goneOn!,
              )}{/if}
            <span class="text-quiet text-sm"
              >{tables.word("stockKind", part.kind)}{part.batch ? ` · batch ${part.batch}` : ""}</span
            >
          </div>
          {#if life}<button type="button" class="btn btn-sm min-h-11" onclick={() => gone(part.id)}>It is out</button
            >{/if}
        </li>
      {/each}
      {#each fitted.fromVisits as life (life.name)}
        <li class="border-base-300 border-b py-2">{@render bar(life)}</li>
      {/each}
      {#if fitted.noted.length + fitted.fromVisits.length === 0}
        <li class="text-quiet py-2">Nothing was fitted that is known of.</li>
      {/if}
    </ul>
    {#if adding}
      <form class="mt-3 flex flex-wrap items-end gap-3" onsubmit={fit} aria-label="A part that is fitted">
        <KindField id="fit-kind" value={kind} onchange={(picked) => (kind = picked)} />
        <div class="min-w-48 grow">
          <TextField
            id="fit-name"
            label="Which, and where"
            value={name}
            most={80}
            errors={errors["name"] ?? []}
            onchange={(text) => (name = text)}
          />
        </div>
        <div class="min-w-40">
          <TextField
            id="fit-batch"
            label="Batch or serial"
            value={batch}
            most={60}
            errors={errors["batch"] ?? []}
            onchange={(text) => (batch = text)}
          />
        </div>
        <label class="text-quiet flex flex-col text-sm"
          >Fitted on <input type="date" class="input min-h-11 w-40" required bind:value={fittedOn} /></label
        >
        <label class="text-quiet flex flex-col text-sm"
          >Warranty until <input type="date" class="input min-h-11 w-40" bind:value={warrantyUntil} /></label
        >
        <button class="btn btn-primary min-h-11" disabled={sending}>Note it</button>
        <button type="button" class="btn btn-ghost min-h-11" onclick={() => (adding = false)}>Leave it</button>
        {#each [...(errors["fittedOn"] ?? []), ...(errors["warrantyUntil"] ?? [])] as sentence, n (n)}
          <p role="alert" class="text-error w-full text-sm">{sentence}</p>
        {/each}
      </form>
    {:else}
      <button type="button" class="btn btn-sm mt-2 min-h-11" onclick={begin}>Note a part</button>
    {/if}
  {/if}
  {#if failed}<p role="alert" class="text-error text-sm">{failed}</p>{/if}
</section>
