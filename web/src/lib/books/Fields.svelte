<script lang="ts" module>
  import type { Quantity } from "../tables.svelte";

  /** A field of a record: a text, a number, a word to pick, or something to tick. */
  export interface Field {
    code: string;
    label: string;
    /** Of a text: most characters. */
    most?: number;
    /** Of a number: its quantity; whole where it has no decimals, open where it may be missing. */
    quantity?: Quantity;
    whole?: boolean;
    /** With buttons that count it up and down. */
    steps?: boolean;
    /** Of a word: what to pick from; a record that keeps its place in the list says so. */
    words?: readonly { code: string; name: string }[];
    byPlace?: boolean;
    /** Whether it may be left open; of a word what is shown then. */
    open?: boolean | string;
    tick?: boolean;
  }
</script>

<script lang="ts" generics="T extends object">
  import NumberField from "../components/NumberField.svelte";
  import TextField from "../components/TextField.svelte";
  import Tick from "../components/Tick.svelte";

  interface Props {
    fields: readonly Field[];
    value: T;
    /** What the ids begin with. */
    prefix?: string;
    errors: Record<string, string[]>;
    /** Fields that nobody confirmed yet. */
    assumed?: readonly string[];
    disabled?: boolean;
    onchange: (change: Partial<T>) => void;
  }
  let { fields, value, prefix = "", errors, assumed = [], disabled = false, onchange }: Props = $props();

  const held = $derived(value as Record<string, string | number | boolean | null | undefined>);
  const label = (f: Field) => (assumed.includes(f.code) ? `${f.label} (taken as usual)` : f.label);
  const set = (f: Field, to: string | number | boolean | null) => onchange({ [f.code]: to } as Partial<T>);

  function type(f: Field, number: number | null) {
    if (number !== null || f.open) set(f, number !== null && f.whole ? Math.round(number) : number);
  }
  const pick = (f: Field, code: string) => set(f, f.byPlace ? Number(code) : code || null);
</script>

<div class="grid gap-4 sm:grid-cols-2">
  {#each fields as f (f.code)}
    {#if f.words}
      <label class="block"
        ><span class="text-quiet mb-1 block text-sm">{label(f)}</span>
        <select
          class="select min-h-11 w-full"
          id="{prefix}{f.code}"
          {disabled}
          aria-invalid={!!errors[f.code]}
          value={String(held[f.code] ?? (f.byPlace ? 0 : ""))}
          onchange={(e) => pick(f, e.currentTarget.value)}
        >
          {#if f.open}<option value="">{f.open}</option>{/if}
          {#each f.words as word (word.code)}<option value={word.code}>{word.name}</option>{/each}
        </select>
        {#each errors[f.code] ?? [] as sentence, n (n)}<span class="text-error block text-sm">{sentence}</span
          >{/each}</label
      >
    {:else if f.tick}
      <div class="self-end">
        <Tick label={f.label} checked={held[f.code] === true} {disabled} onchange={(on) => set(f, on)} />
      </div>
    {:else if f.quantity}
      <NumberField
        id="{prefix}{f.code}"
        label={label(f)}
        quantity={f.quantity}
        compact={!f.steps}
        value={(held[f.code] as number | null | undefined) ?? null}
        {disabled}
        errors={errors[f.code]}
        onchange={(number) => type(f, number)}
      />
    {:else}
      <TextField
        id="{prefix}{f.code}"
        label={label(f)}
        most={f.most ?? 200}
        value={(held[f.code] as string | null | undefined) ?? ""}
        {disabled}
        errors={errors[f.code]}
        onchange={(text) => set(f, text)}
      />
    {/if}
  {/each}
</div>
