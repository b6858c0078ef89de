<script lang="ts">
  import { live } from "../instruments/live.svelte";
  import { tables, type Quantity } from "../tables.svelte";

  interface Props {
    label: string;
    quantity: Quantity;
    /** SI value, null while empty. */
    value: number | null;
    onchange: (value: number | null) => void;
    /** Last visit's value, SI. */
    last?: number | null;
    lastText?: string;
    /** What the value in grey is: "last visit" unless said otherwise. */
    lastWord?: string;
    /** What stands in while nothing is typed, with where it comes from. */
    stands?: string | null;
    /** The connected instrument that can fill it: its field in a frame. */
    instrument?: string;
    errors?: string[];
    disabled?: boolean;
    /** The label is for readers alone: what stands beside the field says it. */
    bare?: boolean;
    /** Without the ± buttons, where many stand side by side. */
    compact?: boolean;
    id: string;
  }
  let {
    label,
    quantity,
    value,
    onchange,
    last,
    lastText,
    lastWord = "last visit",
    stands = null,
    instrument,
    errors = [],
    disabled = false,
    bare = false,
    compact = false,
    id,
  }: Props = $props();

  const unit = $derived(tables.unit(quantity));
  let typed = $state<string | null>(null);
  const unreadable = $derived(typed !== null && typed.trim() !== "" && read(typed) === null);
  const shown = $derived(typed ?? (value === null ? "" : tables.number(value, quantity)));
  const notes = $derived(unreadable ? [`“${typed}” is not a number.`] : errors);

  function read(text: string): number | null {
    const cleaned = text.trim().replace("−", "-").replace(",", ".");
    const number = Number(cleaned);
    return cleaned === "" || !Number.isFinite(number) ? null : number;
  }

  function type(text: string) {
    typed = text;
    const number = read(text);
    if (text.trim() === "") onchange(null);
    else if (number !== null) onchange((number - unit.offset) / unit.factor);
  }

  function step(by: number) {
    const from = value === null ? (last ?? 0) : value;
    const next = from * unit.factor + unit.offset + by * unit.step;
    typed = null;
    onchange((Number(next.toFixed(unit.decimals)) - unit.offset) / unit.factor);
  }

  const holding = $derived(live.holding?.by === id ? live.holding : null);
  const taking = $derived(
    holding ? `${holding.leftS} s` : instrument ? `take ${tables.number(live.values[instrument] ?? 0, quantity)}` : "",
  );

  async function take() {
    if (holding) return live.stop();
    const run = await live.hold(instrument!, id);
    typed = null;
    if (run) onchange(run.meanPa);
  }

  // Enter goes on to the next field of the station; in a form it sends that.
  function onward(event: KeyboardEvent) {
    if (event.key !== "Enter" || (event.currentTarget as HTMLInputElement).form) return;
    const fields = [...document.querySelectorAll<HTMLInputElement>("input[data-number]:not(:disabled)")];
    const next = fields[fields.indexOf(event.currentTarget as HTMLInputElement) + 1];
    if (next) next.focus();
    else (event.currentTarget as HTMLInputElement).blur();
  }
</script>

<div class="@container min-w-0">
  <label class={bare ? "sr-only" : "text-quiet mb-1 block text-sm"} for={id}>{label}</label>
  <div
    class="bg-base-100 focus-within:outline-base-content focus-within:outline-2 flex items-center rounded-lg border {notes.length
      ? 'border-error'
      : 'border-base-300'}"
  >
    {#if !compact}
      <button
        type="button"
        class="btn btn-ghost min-h-11 text-xl @max-[13rem]:hidden"
        aria-label="{label} down"
        {disabled}
        onclick={() => step(-1)}>−</button
      >
    {/if}
    <input
      {id}
      {disabled}
      data-number
      class="measured w-full min-w-[4.5ch] bg-transparent py-2 text-right text-2xl outline-none @max-[10rem]:text-lg"
      type="text"
      inputmode="decimal"
      autocomplete="off"
      value={shown}
      aria-invalid={notes.length > 0}
      aria-describedby="{id}-note"
      oninput={(e) => type(e.currentTarget.value)}
      onblur={() => !unreadable && (typed = null)}
      onkeydown={onward}
    />
    <span class="text-quiet pl-2 whitespace-nowrap {compact ? 'pr-3' : 'pr-1'}">{unit.symbol}</span>
    {#if instrument && live.has(instrument) && !disabled}
      <button
        type="button"
        class="btn btn-sm mx-1 min-h-11 whitespace-nowrap"
        aria-label="{taking}: {label} from the instrument"
        onclick={take}>{taking}</button
      >
    {/if}
    {#if !compact}
      <button
        type="button"
        class="btn btn-ghost min-h-11 text-xl @max-[13rem]:hidden"
        aria-label="{label} up"
        {disabled}
        onclick={() => step(1)}>+</button
      >
    {/if}
  </div>
  <p
    id="{id}-note"
    class="text-sm {last === undefined && !stands ? '' : 'min-h-5'} {notes.length ? 'text-error' : 'text-quiet'}"
  >
    {#if notes.length}
      {notes.join(" ")}
    {:else if stands}
      {stands}
    {:else if last !== undefined}
      {last === null ? (lastText ?? `${lastWord}: not taken`) : `${lastWord} ${tables.number(last, quantity)}`}
    {/if}
  </p>
</div>
