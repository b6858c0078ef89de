<script lang="ts">
  import { api, byField, headline, reply, type Schema } from "../api/client";
  import NumberField from "../components/NumberField.svelte";
  import TextField from "../components/TextField.svelte";
  import { settings } from "../settings.svelte";
  import { tables } from "../tables.svelte";
  import { thousandths } from "../thousandths";
  import { uuid7 } from "../uuid";
  import KindField from "./KindField.svelte";
  import { amountLabel, isCut, isSized } from "./kinds";

  let { vanId, onchanged }: { vanId: string | null; onchanged: (stock: Schema["StockAnswer"]) => void } = $props();

  let kind = $state<Schema["StockKind"]>("rope");
  let size = $state<number | null>(null);
  let amount = $state<number | null>(null);
  let batch = $state("");
  let bestBefore = $state("");
  let errors = $state<Record<string, string[]>>({});
  let refused = $state("");
  let kept = $state("");
  let sending = $state(false);
  let id = uuid7();

  async function send(event: Event) {
    event.preventDefault();
    sending = true;
    const body = {
      id,
      vanId,
      kind,
      sizeMm: thousandths(size),
      amount,
      note: null,
      batch,
      bestBefore: bestBefore || null,
    };
    const answer = await reply(api.POST("/api/stock", { params: { query: { units: settings.system } }, body }));
    sending = false;
    errors = byField(answer);
    refused = headline(answer);
    if (answer.kind !== "away") id = uuid7();
    if (answer.kind !== "ok") return;
    kept = `${tables.word("stockKind", kind)} added.`;
    amount = null;
    [batch, bestBefore] = ["", ""];
    onchanged(answer.data);
  }
</script>

<form class="flex flex-wrap items-end gap-3" onsubmit={send} aria-label="Add to the stock">
  <KindField id="add-kind" value={kind} onchange={(picked) => (kind = picked)} />
  {#if isSized(kind)}
    <NumberField
      id="add-size"
      label="Size"
      quantity="bore"
      value={size}
      compact
      errors={errors["sizeMm"] ?? []}
      onchange={(value) => (size = value)}
    />
  {/if}
  <NumberField
    id="add-amount"
    label={amountLabel(kind)}
    quantity={isCut(kind) ? "length" : "ratio"}
    value={amount}
    compact
    errors={errors["amount"] ?? []}
    onchange={(value) => (amount = value)}
  />
  <div class="w-40">
    <TextField
      id="add-batch"
      label="Batch or serial"
      value={batch}
      most={60}
      errors={errors["batch"] ?? []}
      onchange={(text) => (batch = text)}
    />
  </div>
  <label class="text-quiet flex flex-col text-sm"
    >Good until <input type="date" class="input min-h-11 w-40" bind:value={bestBefore} /></label
  >
  <button class="btn btn-primary min-h-11" disabled={sending}>Add</button>
  <p role="status" class="text-success w-full text-sm">{kept}</p>
  {#if refused}<p role="alert" class="text-error w-full text-sm">{refused}</p>{/if}
</form>
