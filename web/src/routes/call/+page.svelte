<script lang="ts">
  import { goto } from "$app/navigation";
  import { page } from "$app/state";
  import { api, byField, failure, headline, reply, type Schema } from "$lib/api/client";
  import Mark from "$lib/components/Mark.svelte";
  import SentenceLine from "$lib/components/SentenceLine.svelte";
  import TextField from "$lib/components/TextField.svelte";
  import TypedBefore from "$lib/components/TypedBefore.svelte";
  import Tick from "$lib/components/Tick.svelte";
  import SuspectsBoard from "$lib/diagnosis/SuspectsBoard.svelte";
  import { session } from "$lib/session.svelte";
  import { settings } from "$lib/settings.svelte";
  import { tables } from "$lib/tables.svelte";
  import { Typed } from "$lib/typed.svelte";
  import { uuid7 } from "$lib/uuid";
  import { Reckoner } from "$lib/visits/reckoner.svelte";

  type Line = { id: string; customer: string; street: string; place: string; model: string; stops: number };
  interface Call {
    id: string;
    stove: Line | null;
    words: string;
    urgent: boolean;
    wish: string;
    minutes: number;
    told: Record<string, boolean>;
    happening: Schema["Emergency"]["kind"] | null;
  }
  // Words on the telephone are said once: they outlive a look elsewhere, and the household that is written down first.
  const fresh = (): Call => ({
    id: uuid7(),
    stove: null,
    words: "",
    urgent: false,
    wish: "",
    minutes: 60,
    told: {},
    happening: null,
  });
  let empty = $state(fresh());
  const typed = Typed.of<Call>("call");
  const call = $derived({ ...empty, ...typed.change });
  // A call has its id from its first word on: sent again, it is the same.
  const set = (change: Partial<Call>) => typed.set({ id: call.id, ...change });
  const stove = $derived(call.stove);
  const told = $derived(call.told);
  let q = $state("");
  let found = $state<Line[]>([]);
  let passed = $state<string[]>([]);
  const suspects = new Reckoner<Schema["SuspectsAnswer"]>();
  let errors = $state<Record<string, string[]>>({});
  let failed = $state("");
  let busy = $state(false);
  let field = $state<HTMLInputElement>();

  $effect(() => field?.focus());
  // A household that was just written down.
  $effect(() => {
    const known = page.url.searchParams.get("stove");
    if (!known) return;
    void reply(api.GET("/api/stoves/{id}", { params: { path: { id: known } } })).then((answer) => {
      failed = failure(answer);
      if (answer.kind !== "ok") return;
      const { customer, house, stove: s, stops } = answer.data;
      const at = { customer: customer.name, street: house.street, place: house.place, model: s.model };
      set({ stove: { id: known, ...at, stops: stops.length } });
    });
  });

  // What it may be follows every answer.
  $effect(() => {
    if (!stove) return;
    const params = { path: { id: stove.id }, query: { units: settings.system } };
    void suspects.ask(api.POST("/api/stoves/{id}/suspects", { params, body: { told, passed } }), true);
  });

  let turn = 0;
  async function search(text: string) {
    q = text;
    const mine = ++turn;
    if (text.trim() === "") return void (found = []);
    const answer = await reply(api.GET("/api/stoves", { params: { query: { q: text } } }));
    if (mine !== turn) return;
    failed = failure(answer);
    if (answer.kind === "ok") found = answer.data.stoves.slice(0, 8).map((s: Schema["StoveAtPlace"]) => s.line);
  }

  // What is pressing now is told before any question.
  const emergencies = $derived(tables.all?.emergencies ?? []);
  const happening = $derived(emergencies.find((e) => e.kind === call.happening) ?? null);
  function happens(e: Schema["Emergency"]) {
    if (call.happening === e.kind) return set({ happening: null });
    set({ happening: e.kind, urgent: true, told: e.kind === "co" ? { ...told, "co-alarm": true } : told });
  }
  let number = $state("");
  void reply(api.GET("/api/firm")).then((answer) => {
    if (answer.kind === "ok") number = answer.data.firm.contact?.emergency ?? "";
  });

  async function take(solved: boolean) {
    busy = true;
    const { id, words, urgent, wish, minutes, happening: emergency } = call;
    const body = { id, applianceId: stove!.id, words, urgent, wish, minutes, told, solved, emergency };
    const answer = await reply(api.POST("/api/calls", { body }));
    busy = false;
    errors = byField(answer);
    failed = headline(answer);
    if (answer.kind !== "ok") return;
    typed.forget();
    await goto("/week");
  }
</script>

<svelte:head><title>A call · Grate</title></svelte:head>

<div class="mx-auto p-6 max-sm:p-3 {stove ? 'max-w-7xl' : 'max-w-3xl'}">
  <h1 class="text-2xl">A call comes in</h1>
  <TypedBefore
    {typed}
    forget={() => {
      empty = fresh();
      typed.forget();
    }}
  />
  {#if session.person?.role === "technician"}
    <p class="mt-3">The office takes calls. You can <a class="link" href="/stoves?search">look a household up</a>.</p>
  {:else if !stove}
    <label class="mt-4 block">
      <span class="text-quiet text-sm">Who: name, number, street, model</span>
      <input
        class="input input-lg w-full"
        type="search"
        maxlength="100"
        autocomplete="off"
        bind:this={field}
        value={q}
        oninput={(e) => search(e.currentTarget.value)}
      />
    </label>
    {#if failed}<p role="alert" class="text-error mt-2">{failed}</p>{/if}
    <ul class="mt-2">
      {#each found as line (line.id)}
        <li>
          <button
            type="button"
            class="hover:bg-base-100 border-base-300 min-h-11 w-full cursor-pointer border-b py-2 text-left"
            onclick={() => set({ stove: line })}
          >
            <strong>{line.customer}</strong>, {line.street}, {line.place} <span class="text-quiet">{line.model}</span>
            {#if line.stops > 0}<span class="text-error font-semibold"><Mark condition="unsafe" /> no fire</span>{/if}
          </button>
        </li>
      {/each}
    </ul>
    {#if q.trim() && found.length === 0}<p class="text-quiet mt-2">Nobody has all of these words.</p>{/if}
    <a class="btn mt-4 min-h-11" href="/households/new?call">A new household</a>
  {:else}
    <p class="mt-3">
      <strong>{stove.customer}</strong>, {stove.street}, {stove.place}, {stove.model}
      <button type="button" class="link ml-2 min-h-11" onclick={() => set({ stove: null })}>somebody else</button>
    </p>
    {#if stove.stops > 0}<p class="text-error font-semibold">
        <Mark condition="unsafe" /> A stop stands: no fire is lit.
      </p>{/if}
    <section aria-labelledby="now" class="mt-3">
      <h2 id="now" class="text-lg">Happening now?</h2>
      <div class="mt-1 flex flex-wrap gap-2">
        {#each emergencies as e (e.kind)}
          <button
            type="button"
            class="btn min-h-11 {happening?.kind === e.kind ? 'btn-error' : ''}"
            aria-pressed={happening?.kind === e.kind}
            onclick={() => happens(e)}>{e.name}</button
          >
        {/each}
      </div>
      {#if happening}
        <div role="alert" class="border-error mt-2 border-l-8 px-4 py-2 text-lg font-semibold">
          <p>Emergency number: {number || "not noted under Firm"}</p>
          <ol class="list-decimal pl-6">
            {#each happening.steps as step (step)}<li>{step}</li>{/each}
          </ol>
        </div>
      {/if}
    </section>
    {#if suspects.answer}
      {#each suspects.answer.sentences as sentence, i (i)}<SentenceLine {sentence} />{/each}
      <div class="my-4">
        <SuspectsBoard
          wide
          answer={suspects.answer}
          {told}
          {passed}
          onchange={(entry) => {
            set({ told: entry.told });
            passed = entry.passed;
          }}
        />
      </div>
    {/if}
    {#if suspects.away}<p class="text-quiet">{suspects.away}</p>{/if}
    <form
      class="mt-4 max-w-3xl space-y-4"
      novalidate
      onsubmit={(e) => {
        e.preventDefault();
        void take(false);
      }}
    >
      <TextField
        id="words"
        label="What is wrong, in their words"
        most={1000}
        rows={3}
        value={call.words}
        errors={errors.words}
        onchange={(v) => set({ words: v })}
      />
      <Tick
        label="Cannot wait: unsafe, or smoke in the room"
        checked={call.urgent}
        onchange={(on) => set({ urgent: on })}
      />
      <TextField
        id="wish"
        label="When they can"
        most={200}
        value={call.wish}
        errors={errors.wish}
        onchange={(v) => set({ wish: v })}
      />
      <label class="block"
        ><span class="text-quiet mb-1 block text-sm">Minutes it will take</span>
        <input
          class="input measured min-h-11 w-28"
          type="number"
          min="15"
          max="600"
          step="5"
          bind:value={() => call.minutes, (m) => set({ minutes: m })}
        />
        {#each errors.minutes ?? [] as sentence, n (n)}<span class="text-error block text-sm">{sentence}</span>{/each}
      </label>
      {#if failed}<p role="alert" class="text-error">{failed}</p>{/if}
      <div class="flex flex-wrap items-center gap-3">
        {#if suspects.answer?.byTelephone && !happening}
          <button type="button" class="btn btn-lg" disabled={busy} onclick={() => take(true)}
            >Solved: they were told “{suspects.answer.byTelephone}”</button
          >
        {/if}
        <button class="btn btn-primary btn-lg" disabled={busy}>Onto the list of loose ones</button>
      </div>
      {#each errors.solved ?? [] as sentence, n (n)}<p class="text-error text-sm">{sentence}</p>{/each}
    </form>
  {/if}
</div>
