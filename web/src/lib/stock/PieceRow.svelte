<script lang="ts">
  import { api, byField, headline, reply, type Schema } from "../api/client";
  import Choices from "../components/Choices.svelte";
  import NumberField from "../components/NumberField.svelte";
  import TextField from "../components/TextField.svelte";
  import { day } from "../dates";
  import { settings } from "../settings.svelte";
  import { uuid7 } from "../uuid";
  import { amountOf, isCut } from "./kinds";

  interface Props {
    named: Schema["NamedPiece"];
    vans: { id: string; name: string }[];
    mayChange: boolean;
    /** The day at the firm's place. */
    today: string;
    onchanged: (stock: Schema["StockAnswer"]) => void;
  }
  let { named, vans, mayChange, today, onchanged }: Props = $props();

  const piece = $derived(named.piece);
  const quantity = $derived(isCut(piece.kind) ? "length" : "ratio");
  type Move = "used" | "counted" | "corrected" | "moved";
  const moves: { code: Move; name: string }[] = [
    { code: "used", name: "Use" },
    { code: "counted", name: "Count" },
    { code: "corrected", name: "Correct" },
    { code: "moved", name: "Move" },
  ];
  let move = $state<Move | null>(null);
  let amount = $state<number | null>(null);
  let note = $state("");
  let to = $state<string | null>(null);
  let saveId = uuid7();
  let errors = $state<Record<string, string[]>>({});
  let refused = $state("");
  let sending = $state(false);
  const others = $derived(vans.filter((v) => v.id !== (piece.vanId ?? "")));

  async function send(event: Event) {
    event.preventDefault();
    sending = true;
    const body = {
      saveId,
      baseVersion: piece.version,
      move,
      amount,
      note: note || null,
      vanId: move === "moved" ? (to ?? others[0]?.id) || null : null,
    };
    const params = { path: { id: piece.id }, query: { units: settings.system } };
    const answer = await reply(api.POST("/api/stock/{id}/moves", { params, body }));
    sending = false;
    errors = byField(answer);
    refused = headline(answer);
    // What was refused is another save once it is put right.
    if (answer.kind !== "away") saveId = uuid7();
    if (answer.kind !== "ok") return;
    move = null;
    amount = null;
    note = "";
    onchanged(answer.data);
  }
</script>

<li class="border-base-300 border-b py-1">
  <div class="flex flex-wrap items-center gap-x-4 gap-y-1">
    <span class="w-32">{named.name}</span>
    <span class="measured w-24 text-right">
      {amountOf(piece.kind, piece.amount)}
    </span>
    {#if piece.batch || piece.bestBefore}
      <span class="text-sm {piece.bestBefore && piece.bestBefore < today ? 'text-error' : 'text-quiet'}"
        >{piece.batch ? `batch ${piece.batch}` : ""}
        {piece.bestBefore
          ? `${piece.bestBefore < today ? "out of date since" : "good until"} ${day(piece.bestBefore)}`
          : ""}</span
      >
    {/if}
    {#if mayChange}
      <span class="ml-auto">
        <Choices
          label="What happened to {named.name}"
          options={moves}
          value={move}
          onchange={(picked) => (move = move === picked ? null : picked)}
        />
      </span>
    {/if}
  </div>
  {#if move}
    <form class="border-primary my-2 flex flex-wrap items-end gap-3 border-l-4 pl-3" onsubmit={send}>
      {#if move === "moved"}
        <label class="text-quiet text-sm"
          >To
          <select
            class="select flex min-h-11 w-48"
            value={to ?? others[0]?.id}
            onchange={(e) => (to = e.currentTarget.value)}
          >
            {#each others as van (van.id)}<option value={van.id}>{van.name}</option>{/each}
          </select></label
        >
      {:else}
        <NumberField
          id="amount-{piece.id}"
          label={move === "used" ? "Used of it" : "There is"}
          {quantity}
          value={amount}
          compact
          errors={errors["amount"] ?? []}
          onchange={(value) => (amount = value)}
        />
      {/if}
      <div class="min-w-40 grow">
        <TextField
          id="note-{piece.id}"
          label={move === "corrected" ? "What was wrong" : "What for"}
          value={note}
          most={200}
          errors={errors["note"] ?? []}
          onchange={(value) => (note = value)}
        />
      </div>
      <button class="btn btn-primary min-h-11" disabled={sending}>Keep it</button>
      {#if refused}<p role="alert" class="text-error w-full text-sm">{refused}</p>{/if}
    </form>
  {/if}
</li>
