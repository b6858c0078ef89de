<script lang="ts" generics="T extends string">
  import type { Snippet } from "svelte";

  interface Props {
    /** What is chosen, for readers; or the id of what names it. */
    label?: string;
    labelledby?: string;
    options: readonly { code: T; name: string }[];
    value: T | null;
    disabled?: boolean;
    /** Whether the digits from 1 on pick, too. */
    digits?: boolean;
    before?: Snippet<[T]>;
    onchange: (value: T) => void;
  }
  let { label, labelledby, options, value, disabled = false, digits = false, before, onchange }: Props = $props();

  let group = $state<HTMLElement>();
  // One of the group is in the order of tabs: the picked one, else the first. Arrows move in it.
  const stop = $derived(options.find((o) => o.code === value)?.code ?? options[0]?.code);

  function press(event: KeyboardEvent, at: number) {
    if (disabled || event.ctrlKey || event.metaKey || event.altKey) return;
    const by = { ArrowRight: 1, ArrowDown: 1, ArrowLeft: -1, ArrowUp: -1 }[event.key];
    const to = by ? (at + by + options.length) % options.length : digits ? Number(event.key) - 1 : NaN;
    const picked = options[to];
    if (!picked) return;
    event.preventDefault();
    event.stopPropagation();
    onchange(picked.code);
    group?.querySelectorAll<HTMLElement>('[role="radio"]')[to]?.focus();
  }
</script>

<div
  bind:this={group}
  role="radiogroup"
  aria-label={label}
  aria-labelledby={labelledby}
  class="border-base-300 bg-base-100 inline-flex flex-wrap overflow-hidden rounded-lg border"
>
  {#each options as option, i (option.code)}
    <button
      type="button"
      role="radio"
      aria-checked={value === option.code}
      tabindex={option.code === stop ? 0 : -1}
      {disabled}
      title={digits ? `${option.name} (${i + 1})` : undefined}
      class="border-base-300 flex min-h-11 cursor-pointer items-center gap-1.5 px-3.5 not-first:border-l disabled:cursor-default {value ===
      option.code
        ? 'bg-base-200 outline-base-content rounded-lg font-bold outline-2 -outline-offset-2'
        : 'hover:bg-base-200'}"
      onclick={() => onchange(option.code)}
      onkeydown={(e) => press(e, i)}>{@render before?.(option.code)}{option.name}</button
    >
  {/each}
</div>
