<script lang="ts">
  import { api, refusals, reply, type Schema } from "../api/client";
  import { dayOf } from "../dates";

  let { stoveId }: { stoveId: string } = $props();

  let page = $state<Schema["HouseholdState"] | null>(null);
  let made = $state<string | null>(null);
  let failed = $state<string[]>([]);
  let copied = $state(false);
  const params = $derived({ path: { id: stoveId } });

  async function load() {
    const answer = await reply(api.GET("/api/stoves/{id}/household", { params }));
    failed = refusals(answer);
    if (answer.kind === "ok") page = answer.data;
  }
  $effect(() => void load());

  async function make() {
    const answer = await reply(api.POST("/api/stoves/{id}/household", { params }));
    failed = refusals(answer);
    if (answer.kind !== "ok") return;
    made = new URL(answer.data.path, location.origin).href;
    copied = false;
    await load();
  }
  async function withdraw() {
    const answer = await reply(api.DELETE("/api/stoves/{id}/household", { params }));
    failed = refusals(answer);
    if (answer.kind !== "ok") return;
    made = null;
    await load();
  }
  async function copy() {
    await navigator.clipboard.writeText(made!);
    copied = true;
  }
</script>

<section aria-labelledby="household-page" class="mt-7">
  <h3 id="household-page">The household’s page</h3>
  <p class="text-quiet text-sm">
    How to light, reload, run the night; what was found; what to do when it goes wrong. In their language, without a
    sign-in, and to print.
  </p>
  {#if made}
    <p class="mt-2 break-all"><a class="underline" href={made} target="_blank" rel="noreferrer">{made}</a></p>
    <p class="text-quiet text-sm">It is shown this once. Whoever has it can read the page.</p>
  {:else if page?.link}
    <p class="mt-2">Made on {dayOf(page.link.madeAt)} by {page.link.madeBy}; its address was shown then.</p>
  {/if}
  <div class="mt-2 flex flex-wrap gap-2">
    {#if made}<button type="button" class="btn min-h-11" onclick={copy}>{copied ? "Copied" : "Copy the address"}</button
      >{/if}
    <button type="button" class="btn min-h-11" onclick={make}
      >{page?.link ? "Make a new address" : "Make the page"}</button
    >
    {#if page?.link}<button type="button" class="btn btn-ghost min-h-11" onclick={withdraw}>Withdraw it</button>{/if}
  </div>
  {#each failed as sentence, n (n)}<p role="alert" class="text-error text-sm">{sentence}</p>{/each}
</section>
