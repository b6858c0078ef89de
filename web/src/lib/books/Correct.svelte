<script lang="ts" generics="T extends object">
  import type { Snippet } from "svelte";
  import TypedBefore from "../components/TypedBefore.svelte";
  import { Typed } from "../typed.svelte";
  import Fields, { type Field } from "./Fields.svelte";

  /** A record of the books, corrected: what is typed stays until it is kept. */
  interface Props {
    /** What is corrected; what was typed of it is kept under its id. */
    id: string;
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
  let { id, value, fields, prefix, errors, assumed = [], disabled, keep, more }: Props = $props();
  // svelte-ignore state_referenced_locally
  const typed = Typed.of<T>(id);
  // Over what is in the books now, whoever wrote that in between.
  const now = $derived<T>({ ...value, ...typed.change });
  const changed = $derived(JSON.stringify(now) !== JSON.stringify(value));
  const set = (change: Partial<T>) => typed.set(change);
  async function send() {
    if (await keep(now)) typed.forget();
  }
</script>

<form
  novalidate
  onsubmit={(e) => {
    e.preventDefault();
    void send();
  }}
>
  <TypedBefore {typed} />
  <Fields {fields} value={now} {prefix} {errors} {assumed} {disabled} onchange={set} />
  {@render more?.(now, set)}
  {#if changed}<button class="btn btn-primary mt-3 min-h-11">Keep it</button>{/if}
</form>
