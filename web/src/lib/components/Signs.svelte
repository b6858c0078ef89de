<script lang="ts">
  import type { Schema } from "../api/client";

  interface Props {
    label: string;
    /** What is said where nothing is seen. */
    none: string;
    words: Schema["Named"][];
    /** What is seen; null while nobody looked. */
    seen: readonly string[] | null | undefined;
    errors?: string[];
    disabled?: boolean;
    onchange: (seen: string[]) => void;
  }
  let { label, none, words, seen, errors = [], disabled = false, onchange }: Props = $props();

  const toggle = (code: string) =>
    onchange(seen?.includes(code) ? seen.filter((s) => s !== code) : [...(seen ?? []), code]);
</script>

{#snippet sign(name: string, pressed: boolean, onclick: () => void)}
  <button
    type="button"
    class="btn btn-sm min-h-11 {pressed ? 'outline-base-content font-bold outline-2' : ''}"
    aria-pressed={pressed}
    {disabled}
    {onclick}>{name}</button
  >
{/snippet}

<div class="flex flex-wrap gap-2" role="group" aria-label={label}>
  {@render sign(none, seen?.length === 0, () => onchange([]))}
  {#each words as word (word.code)}
    {@render sign(word.name, seen?.includes(word.code) ?? false, () => toggle(word.code))}
  {/each}
</div>
{#each errors as sentence, n (n)}<p class="text-error text-sm">{sentence}</p>{/each}
