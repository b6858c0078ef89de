<script lang="ts">
  import { api, reply, type Reply, type Schema } from "../api/client";
  import { day } from "../dates";
  import { session } from "../session.svelte";
  import { settings } from "../settings.svelte";
  import { uuid7 } from "../uuid";

  interface Props {
    purchase: Schema["Purchase"];
    today: string;
    vans: Schema["Technician"][];
    ontaken: (answer: Reply<Schema["PartsAnswer"]>) => void;
  }
  let { purchase, today, vans, ontaken }: Props = $props();

  const own = $derived(session.person?.role === "technician" ? session.person.id : null);
  const left = $derived(purchase.packs - purchase.received);
  // What usually comes is everything.
  let typed = $state<number | null>(null);
  const packs = $derived(Math.min(typed ?? left, left));
  let van = $state("");
  let batch = $state("");
  let sending = $state(false);
  let saveId = uuid7();

  async function receive(ends: boolean) {
    sending = true;
    const params = { path: { id: purchase.id }, query: { units: settings.system } };
    const body = { saveId, packs: ends ? 0 : packs, ends, vanId: van || null, batch };
    const answer = await reply(api.POST("/api/parts/orders/{id}/received", { params, body }));
    sending = false;
    if (answer.kind !== "away") saveId = uuid7();
    if (answer.kind === "ok") [typed, batch] = [null, ""];
    ontaken(answer);
  }
</script>

<li class="border-base-300 flex flex-wrap items-center gap-x-4 gap-y-1 border-b py-2">
  <span class="min-w-56 grow"
    ><span class="font-semibold">{left} × {purchase.name}</span>{purchase.received
      ? `, ${purchase.received} came`
      : ""}<span class="block text-sm {purchase.expectedOn < today ? 'text-error' : 'text-quiet'}"
      >{purchase.supplier}, expected {day(purchase.expectedOn)}{purchase.expectedOn < today ? ": late" : ""}</span
    ></span
  >
  <label class="text-quiet text-sm"
    >Packs
    <input
      type="number"
      class="input min-h-11 w-20"
      min="1"
      max={left}
      value={packs}
      oninput={(e) => (typed = Math.max(1, Math.round(e.currentTarget.valueAsNumber || 1)))}
    /></label
  >
  <label class="text-quiet text-sm"
    >Into
    <select class="select min-h-11 w-40" bind:value={van}>
      <option value="">the store</option>
      {#each vans.filter((v) => own === null || v.id === own) as v (v.id)}<option value={v.id}>van of {v.name}</option
        >{/each}
    </select></label
  >
  <label class="text-quiet text-sm"
    >Batch
    <input class="input min-h-11 w-32" maxlength="60" bind:value={batch} /></label
  >
  <button class="btn btn-primary min-h-11" disabled={sending} onclick={() => receive(false)}>It came</button>
  <button class="btn min-h-11" disabled={sending} onclick={() => receive(true)}>Nothing more comes</button>
</li>
