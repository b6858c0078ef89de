<script lang="ts" generics="T extends object">
  import type { Snippet } from "svelte";
  import Fields, { type Field } from "./Fields.svelte";

  /** A record of the books, corrected: what is typed stays until it is kept. */
  interface Props {
    value: T;
    fields: readonly Field[];
    prefix: string;
    errors: Record<string, string[]>;
    assumed?: readonly string[];
    disabled: boolean;
    keep: (value: T) => Promise<boolean>;
    /** Fields that no list of them can hold. */
    more?: Snippet<[T, (change: Partial<T>) => void]>;
  }
  let { value, fields, prefix, errors, assumed = [], disabled, keep, more }: Props = $props();
  // svelte-ignore state_referenced_locally
  let now = $state<T>({ ...value });
  const changed = $derived(JSON.stringify(now) !== JSON.stringify(value));
  const set = (change: Partial<T>) => (now = { ...now, ...change });
</script>

<form
  novalidate
  onsubmit={(e) => {
    e.preventDefault();
    void keep(now);
  }}
>
  <Fields {fields} value={now} {prefix} {errors} {assumed} {disabled} onchange={set} />
  {@render more?.(now, set)}
  {#if changed}<button class="btn btn-primary mt-3 min-h-11">Keep it</button>{/if}
</form>
