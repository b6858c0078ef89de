<script lang="ts">
  import { api, reply, refusals, type Schema } from "../api/client";
  import { dayOf } from "../dates";
  import { session } from "../session.svelte";

  let { technicians }: { technicians: Schema["Technician"][] } = $props();

  const own = $derived(session.person?.role === "technician");
  let whose = $state("");
  let feeds = $state<Schema["CalendarFeed"][]>([]);
  let made = $state<string | null>(null);
  let refused = $state<string[]>([]);

  async function load() {
    const answer = await reply(api.GET("/api/calendars"));
    if (answer.kind === "ok") feeds = answer.data;
  }

  async function make() {
    const technicianId = own ? session.person!.id : whose || null;
    const answer = await reply(api.POST("/api/calendars", { body: { technicianId } }));
    refused = refusals(answer);
    if (answer.kind !== "ok") return;
    made = location.origin + answer.data.path;
    await load();
  }

  async function revoke(id: string) {
    const answer = await reply(api.DELETE("/api/calendars/{id}", { params: { path: { id } } }));
    refused = refusals(answer);
    made = null;
    await load();
  }
</script>

<details class="mt-6" ontoggle={(e) => e.currentTarget.open && void load()}>
  <summary class="cursor-pointer font-semibold">Calendar for another program</summary>
  <p class="text-quiet mt-1 text-sm">
    Planned visits and due dates as iCalendar under a secret address. Whoever has the address can read it: revoke one
    that went astray.
  </p>
  <div class="mt-2 flex flex-wrap gap-2">
    {#if !own}
      <select class="select w-48" aria-label="Whose visits" bind:value={whose}>
        <option value="">the whole firm</option>
        {#each technicians as t (t.id)}<option value={t.id}>{t.name}</option>{/each}
      </select>
    {/if}
    <button class="btn" onclick={make}>{own ? "Address for my own visits" : "Make an address"}</button>
  </div>
  {#if made}
    <p class="mt-2">
      Shown this once: <code class="bg-base-100 border-base-300 rounded border px-2 py-1 break-all" data-address
        >{made}</code
      >
    </p>
  {/if}
  <ul class="mt-2">
    {#each feeds as feed (feed.id)}
      <li class="border-base-300 flex flex-wrap items-center gap-3 border-b py-1">
        {feed.person ?? "The whole firm"}
        <span class="text-quiet text-sm">made by {feed.createdBy} on {dayOf(feed.createdAt)}</span>
        <button class="btn btn-sm ml-auto" onclick={() => revoke(feed.id)}>Revoke</button>
      </li>
    {/each}
  </ul>
  {#each refused as sentence, n (n)}<p role="alert" class="text-error text-sm">{sentence}</p>{/each}
</details>
