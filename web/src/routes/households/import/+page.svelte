<script lang="ts">
  import { api, ask, refusals, reply, type Schema } from "$lib/api/client";
  import Choices from "$lib/components/Choices.svelte";
  import { dayOf } from "$lib/dates";
  import { settings } from "$lib/settings.svelte";
  import { tables } from "$lib/tables.svelte";
  import { uuid7 } from "$lib/uuid";

  let file = $state<File | null>(null);
  let preview = $state<Schema["ListPreview"] | null>(null);
  let kind = $state("steel");
  let doubles = $state<"skip" | "add">("skip");
  let leaveOut = $state(false);
  let failed = $state<string[]>([]);
  let reading = $state(false);
  let imports = $state<Schema["ImportsAnswer"] | null>(null);
  // One save for each list, until it was answered.
  let id = uuid7();

  const fields = $derived(preview?.columns.map((c) => c.field ?? "") ?? []);
  const running = $derived(imports?.running ?? null);
  const busy = $derived(running?.doing === "writing" || running?.doing === "reckoning");
  const wanted = $derived(
    preview ? preview.rows - preview.refusedRows - (doubles === "skip" ? preview.doubles : 0) : 0,
  );
  const ready = $derived(wanted > 0 && fields.includes("name") && (leaveOut || preview?.refusedRows === 0));

  const body = () => new Blob([file!], { type: "text/csv" });
  function query(map: string[] | null) {
    const told: Record<string, string> = { kind, units: settings.system };
    if (map) told["map"] = map.join(",");
    return new URLSearchParams(told);
  }

  async function look(map: string[] | null) {
    if (!file) return;
    reading = true;
    const answer = await reply(ask<Schema["ListPreview"]>("POST", `/api/imports/preview?${query(map)}`, body()));
    reading = false;
    failed = refusals(answer);
    if (answer.kind === "ok") preview = answer.data;
    // What was proposed stays as it was told, with what is wrong about it.
    else if (map && preview)
      preview.columns = preview.columns.map((c, i) => ({ ...c, field: (map[i] || null) as typeof c.field }));
  }
  function pick(event: Event & { currentTarget: HTMLInputElement }) {
    file = event.currentTarget.files?.[0] ?? null;
    [preview, failed, leaveOut] = [null, [], false];
    id = uuid7();
    void look(null);
  }
  const setField = (at: number, field: string) => look(fields.map((f, i) => (i === at ? field : f)));

  async function bringIn() {
    const told = query(fields);
    told.set("name", file!.name.slice(0, 200));
    told.set("doubles", doubles);
    told.set("leaveOut", String(leaveOut));
    const answer = await reply(ask<Schema["ImportProgress"]>("POST", `/api/imports/${id}?${told}`, body()));
    failed = refusals(answer);
    if (answer.kind !== "ok") return;
    [preview, file] = [null, null];
    id = uuid7();
    await load();
  }

  async function load() {
    const answer = await reply(api.GET("/api/imports"));
    if (answer.kind === "ok") imports = answer.data;
    else failed = refusals(answer);
  }
  $effect(() => void load());
  $effect(() => {
    if (!busy) return;
    const timer = setInterval(() => void load(), 500);
    return () => clearInterval(timer);
  });
  async function send(what: "stop" | "undo", of: string) {
    const answer = await reply(
      what === "stop"
        ? api.POST("/api/imports/{id}/stop", { params: { path: { id: of } } })
        : api.POST("/api/imports/{id}/undo", { params: { path: { id: of } } }),
    );
    failed = refusals(answer);
    await load();
  }
</script>

<svelte:head><title>Bring in a list · Grate</title></svelte:head>

{#snippet row(of: Schema["ListRowSeen"])}
  <tr class="border-base-300 border-t align-top {of.refused ? 'text-error' : ''}">
    <td class="text-quiet w-14 py-1">{of.line}</td>
    <td class="w-1/3">{of.name || "no name"}<span class="text-quiet block text-sm">{of.address}</span></td>
    <td class="w-1/3 px-3">{of.stove}</td>
    <td>{of.refused ?? of.twin ?? ""}</td>
  </tr>
{/snippet}

<div class="mx-auto max-w-5xl p-6 max-sm:p-3">
  <div class="flex flex-wrap items-baseline gap-4">
    <h1 class="mr-auto text-2xl">Bring in a list</h1>
    <a class="link" href="/api/households.csv" download>Every household as a list</a>
  </div>
  <p class="text-quiet">
    A CSV file as spreadsheets write it, one row a stove, its columns named in the first line, in any order. Nothing is
    written before you have seen it.
  </p>
  <label class="mt-4 block"
    ><span class="text-quiet text-sm">The list</span>
    <input type="file" accept=".csv,text/csv,text/plain" class="file-input block w-full max-w-md" onchange={pick} />
  </label>
  {#each failed as sentence, n (n)}<p role="alert" class="text-error mt-2">{sentence}</p>{/each}
  {#if reading}<p class="mt-2" role="status">
      <span class="loading loading-dots" aria-hidden="true"></span> Reading the list.
    </p>{/if}

  {#if preview}
    <section aria-labelledby="columns" class="bg-base-100 border-base-300 mt-4 rounded-lg border p-4">
      <h2 id="columns" class="mb-2 text-lg">What its columns hold</h2>
      <div class="grid grid-cols-3 gap-3 max-md:grid-cols-2 max-sm:grid-cols-1">
        {#each preview.columns as column, i (i)}
          <label class="text-sm"
            ><span class="font-semibold">{column.header || `column ${i + 1}`}</span>
            <select
              class="select min-h-11 w-full"
              value={column.field ?? ""}
              onchange={(e) => void setField(i, e.currentTarget.value)}
            >
              <option value="">is left out</option>
              {#each tables.words("listField") as field (field.code)}<option value={field.code}>{field.name}</option
                >{/each}
            </select></label
          >
        {/each}
        <label class="text-sm"
          ><span class="font-semibold">Where a row tells no kind</span>
          <select class="select min-h-11 w-full" bind:value={kind} onchange={() => void look(fields)}>
            {#each tables.all?.kinds ?? [] as k (k.code)}<option value={k.code}>{k.name}</option>{/each}
          </select></label
        >
      </div>
    </section>

    <section aria-labelledby="rows" class="bg-base-100 border-base-300 mt-4 overflow-x-auto rounded-lg border p-4">
      <h2 id="rows" class="mb-2 text-lg">
        {preview.rows} rows{preview.rows > preview.first.length ? `, the first ${preview.first.length}` : ""}
      </h2>
      <table class="w-full text-left">
        <thead class="text-quiet text-sm"><tr><th>Line</th><th>Household</th><th>Stove</th><th></th></tr></thead>
        <tbody
          >{#each preview.first as of (of.line)}{@render row(of)}{/each}</tbody
        >
      </table>
    </section>

    {#if preview.refused.length}
      <section aria-labelledby="refused" class="border-error bg-base-100 mt-4 overflow-x-auto rounded-lg border p-4">
        <h2 id="refused" class="mb-2 text-lg">
          {preview.refusedRows === 1 ? "One row cannot be" : `${preview.refusedRows} rows cannot be`}
        </h2>
        <table class="w-full text-left">
          <tbody
            >{#each preview.refused as of (of.line)}{@render row(of)}{/each}</tbody
          >
        </table>
        <label class="mt-2 flex min-h-11 items-center gap-3"
          ><input type="checkbox" class="checkbox" bind:checked={leaveOut} /> Leave
          {preview.refusedRows === 1 ? "it" : "them"} out</label
        >
      </section>
    {/if}

    <div class="mt-4 flex flex-wrap items-center gap-4">
      {#if preview.doubles}
        <span>{preview.doubles} in the books already:</span>
        <Choices
          label="Those that are in the books already"
          options={[
            { code: "skip", name: "leave out" },
            { code: "add", name: "bring in once more" },
          ]}
          value={doubles}
          onchange={(code) => (doubles = code)}
        />
      {/if}
      <button class="btn btn-primary min-h-11" disabled={!ready || busy} onclick={bringIn}
        >Bring in {wanted} {wanted === 1 ? "stove" : "stoves"}</button
      >
      {#if !fields.includes("name")}<span>Tell which column holds the name.</span>{/if}
    </div>
  {/if}

  {#if running}
    <section aria-labelledby="running" class="bg-base-100 border-base-300 mt-4 rounded-lg border p-4">
      <h2 id="running" class="text-lg">
        {running.doing === "writing"
          ? "It is being written"
          : running.doing === "reckoning"
            ? "Written; what is due is being reckoned"
            : running.doing === "done"
              ? "The list is in the books"
              : "It did not go through"}
      </h2>
      {#if running.sentence}<p>{running.sentence}</p>{/if}
      {#if busy}
        <div class="mt-2 flex items-center gap-4">
          <progress class="progress grow" value={running.done} max={running.of} aria-label="Stoves so far"></progress>
          <span class="computed">{running.done} of {running.of}</span>
          {#if running.doing === "writing"}
            <button class="btn min-h-11" onclick={() => void send("stop", running!.id)}>Stop it</button>
          {/if}
        </div>
      {:else if running.doing === "done"}<p>{running.of} stoves. <a class="link" href="/stoves">Households</a></p>{/if}
    </section>
  {/if}

  {#if imports?.lists.length}
    <section aria-labelledby="before" class="mt-6">
      <h2 id="before" class="mb-2 text-lg">Lists that were brought in</h2>
      <ul>
        {#each imports.lists as list (list.id)}
          <li class="border-base-300 flex flex-wrap items-center gap-x-4 border-b py-1">
            <span class="text-quiet w-28">{dayOf(list.at)}</span>
            <span class="grow"
              >{list.name}: {list.households} households, {list.stoves} stoves<span class="text-quiet">, {list.by}</span
              ></span
            >
            {#if list.undoneAt}<span class="text-quiet">taken back</span>
            {:else}<button class="btn btn-sm min-h-11" disabled={busy} onclick={() => void send("undo", list.id)}
                >Take it back</button
              >{/if}
          </li>
        {/each}
      </ul>
    </section>
  {/if}
</div>
