<script lang="ts">
  import { api, byField, reply, type Schema } from "../api/client";
  import TakeOut from "../components/TakeOut.svelte";
  import TextField from "../components/TextField.svelte";
  import { day as said } from "../dates";
  import { uuid7 } from "../uuid";

  /** Who is away in the week that is looked at; another absence is written down here. */
  interface Props {
    away: Schema["Absence"][];
    technicians: Schema["Technician"][];
    day: string;
    onchanged: () => Promise<void>;
  }
  let { away, technicians, day, onchanged }: Props = $props();

  // svelte-ignore state_referenced_locally
  let next = $state({ id: uuid7(), personId: technicians[0]?.id ?? "", firstDay: day, lastDay: day, why: "" });
  let errors = $state<Record<string, string[]>>({});
  const name = (id: string) => technicians.find((t) => t.id === id)?.name ?? "";

  async function add(event: SubmitEvent) {
    event.preventDefault();
    const answer = await reply(api.POST("/api/absences", { body: next }));
    errors = byField(answer);
    if (answer.kind !== "ok") return;
    next = { ...next, id: uuid7(), why: "" };
    await onchanged();
  }
  async function end(id: string) {
    await reply(api.DELETE("/api/absences/{id}", { params: { path: { id } } }));
    await onchanged();
  }
</script>

<section aria-labelledby="away" class="mt-6">
  <h2 id="away" class="text-lg">Away</h2>
  {#if away.length === 0}<p class="text-quiet text-sm">Nobody is away this week.</p>{/if}
  <ul>
    {#each away as a (a.id)}
      <li class="border-base-300 flex items-center gap-2 border-b text-sm">
        <span class="grow"
          ><strong>{name(a.personId)}</strong>
          {said(a.firstDay)}{a.lastDay === a.firstDay ? "" : ` to ${said(a.lastDay)}`}{a.why ? `, ${a.why}` : ""}</span
        >
        <TakeOut label="{name(a.personId)} is not away" onclick={() => end(a.id)} />
      </li>
    {/each}
  </ul>
  <details class="mt-2">
    <summary class="link min-h-11 cursor-pointer py-2">Somebody is away</summary>
    <form class="space-y-2" onsubmit={add} novalidate>
      <select class="select min-h-11 w-full" aria-label="Who is away" bind:value={next.personId}>
        {#each technicians as t (t.id)}<option value={t.id}>{t.name}</option>{/each}
      </select>
      <div class="flex flex-wrap gap-2">
        <label class="text-quiet text-sm"
          >From <input type="date" class="input flex min-h-11 w-40" required bind:value={next.firstDay} /></label
        >
        <label class="text-quiet text-sm"
          >To, that day included <input
            type="date"
            class="input flex min-h-11 w-40"
            required
            bind:value={next.lastDay}
          /></label
        >
      </div>
      <TextField id="away-why" label="Why" most={200} value={next.why} onchange={(why) => (next = { ...next, why })} />
      {#each Object.values(errors).flat() as sentence, n (n)}<p role="alert" class="text-error text-sm">
          {sentence}
        </p>{/each}
      <button class="btn min-h-11">Write it down</button>
    </form>
  </details>
</section>
