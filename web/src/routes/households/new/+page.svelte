<script lang="ts">
  import { goto } from "$app/navigation";
  import { page } from "$app/state";
  import { api, ask, byField, headline, reply, type Problem, type Schema } from "$lib/api/client";
  import Fields from "$lib/books/Fields.svelte";
  import { address, stove, usualFlue, whereabouts, who } from "$lib/books/fields";
  import WhoFields from "$lib/books/WhoFields.svelte";
  import TypedBefore from "$lib/components/TypedBefore.svelte";
  import { settings } from "$lib/settings.svelte";
  import { Typed } from "$lib/typed.svelte";
  import { uuid7 } from "$lib/uuid";

  type Told = Schema["NewHousehold"];
  const [id, stoveId] = [uuid7(), uuid7()];
  const typed = Typed.of<Told>("household");
  const told = $derived<Told>({ stove: { kind: "steel" }, ...typed.change });
  let errors = $state<Record<string, string[]>>({});
  let failed = $state("");
  let twins = $state<NonNullable<Problem["twins"]>>([]);
  let busy = $state(false);

  const set = (change: Partial<Told>) => typed.set(change);
  // A call that led here goes on with the stove.
  const calling = page.url.searchParams.has("call");

  // What a card holds is filled in, beside what was typed.
  async function fromCard(event: Event & { currentTarget: HTMLInputElement }) {
    const file = event.currentTarget.files?.[0];
    if (!file) return;
    const body = new Blob([file], { type: "text/vcard" });
    const answer = await reply(ask<Told>("POST", "/api/households/card", body));
    failed = headline(answer);
    errors = byField(answer);
    if (answer.kind === "ok")
      set(Object.fromEntries(Object.entries(answer.data).filter(([, v]) => v !== null && v !== "")));
  }

  async function keep(despite: boolean) {
    busy = true;
    const body = { id, stoveId, household: told, despite };
    const answer = await reply(api.POST("/api/households", { params: { query: { units: settings.system } }, body }));
    busy = false;
    errors = byField(answer);
    failed = headline(answer);
    twins = answer.kind === "problem" ? (answer.problem.twins ?? []) : [];
    if (answer.kind !== "ok") return;
    typed.forget();
    await goto(calling ? `/call?stove=${stoveId}` : `/households/${id}`);
  }
</script>

<svelte:head><title>New household · Grate</title></svelte:head>

<div class="mx-auto max-w-3xl p-6 max-sm:p-3">
  <h1 class="text-2xl">New household</h1>
  <p class="text-quiet mt-1">
    What is left open is taken as usual, marked so, and asked for at the first visit. Name, street and place are enough.
  </p>
  <TypedBefore {typed} />
  <form
    class="mt-4 space-y-7"
    novalidate
    onsubmit={(e) => {
      e.preventDefault();
      void keep(false);
    }}
  >
    <section aria-label="Who">
      <Fields fields={who} value={told} {errors} onchange={set} />
      <details class="mt-2" open={Object.keys(errors).some((f) => f.startsWith("contacts") || f.startsWith("wish"))}>
        <summary class="link min-h-11 cursor-pointer py-2">Other numbers, when they can, language, a vCard</summary>
        <label class="block text-sm"
          ><span class="text-quiet mb-1 block">Fill in from a vCard</span>
          <input
            type="file"
            accept=".vcf,text/vcard"
            class="file-input block w-full max-w-md"
            onchange={fromCard}
          /></label
        >
        {#each errors.card ?? [] as sentence, n (n)}<p role="alert" class="text-error text-sm">{sentence}</p>{/each}
        <WhoFields value={told} {errors} onchange={set} />
      </details>
    </section>
    <section aria-labelledby="house">
      <h2 id="house" class="mb-2 text-lg">House</h2>
      <Fields
        fields={[
          ...address(),
          { code: "storeys", label: "Storeys", quantity: "count", whole: true, steps: true, open: true },
        ]}
        value={told}
        {errors}
        onchange={set}
      />
      <details class="mt-2" open={!!errors.latitude || !!errors.longitude || !!errors.altitudeM}>
        <summary class="link min-h-11 cursor-pointer py-2">Where it lies</summary>
        <Fields fields={whereabouts(true)} value={told} {errors} onchange={set} />
      </details>
    </section>
    <section aria-labelledby="stove">
      <h2 id="stove" class="mb-2 text-lg">Stove</h2>
      <Fields
        fields={[...stove([], true), usualFlue()]}
        value={told.stove ?? {}}
        {errors}
        onchange={(change) => set({ stove: { ...told.stove, ...change } })}
      />
      {#each errors.storey ?? [] as sentence, n (n)}<p class="text-error text-sm">{sentence}</p>{/each}
    </section>
    {#if failed}
      <div role="alert" class="border-primary border-l-4 pl-3">
        <p class={twins.length ? "" : "text-error"}>{failed}</p>
        {#each twins as twin (twin.id)}
          <p><a class="link" href="/households/{twin.id}">{twin.name}, {twin.street}, {twin.place}</a></p>
        {/each}
        {#if twins.length}
          <button type="button" class="btn mt-2 min-h-11" disabled={busy} onclick={() => keep(true)}
            >It is another household</button
          >
        {/if}
      </div>
    {/if}
    <button class="btn btn-primary btn-lg" disabled={busy}>Write it down</button>
  </form>
</div>
