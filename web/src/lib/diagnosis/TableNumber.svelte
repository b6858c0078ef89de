<script lang="ts">
  import type { Schema } from "../api/client";

  /** A number of the table of troubles: as shipped, and as the owner says. */
  interface Props {
    number: Schema["TableNumber"];
    label: string;
    unit?: "%" | "min" | "";
    editable: boolean;
    onset: (what: string, value: number | null) => void;
  }
  let { number, label, unit = "", editable, onset }: Props = $props();
  const factor = $derived(unit === "%" ? 100 : 1);
  const shown = (value: number) => String(+(factor * value).toFixed(3));
  let typed = $state("");
</script>

<form
  class="flex flex-wrap items-center gap-x-2"
  onsubmit={(e) => {
    e.preventDefault();
    onset(number.what, Number(typed) / factor);
    typed = "";
  }}
>
  <span class="whitespace-nowrap {number.own == null ? '' : 'text-quiet line-through'}"
    >{shown(number.shipped)} {unit}</span
  >
  {#if editable}
    <input
      class="input min-h-11 w-24"
      type="number"
      min={shown(number.from)}
      max={shown(number.to)}
      step="any"
      required
      placeholder="own"
      aria-label="{label}{unit ? `, ${unit}` : ''}"
      value={typed || (number.own == null ? "" : shown(number.own))}
      oninput={(e) => (typed = e.currentTarget.value)}
    />
    {#if typed}<button class="btn btn-sm min-h-11">Keep it</button>
    {:else if number.own != null}
      <button
        type="button"
        class="btn btn-ghost btn-sm min-h-11"
        aria-label="{label}: as shipped"
        onclick={() => onset(number.what, null)}>As shipped</button
      >
    {/if}
  {:else if number.own != null}<strong>{shown(number.own)} {unit}</strong>{/if}
</form>
