<script lang="ts" generics="T extends string">
  interface Props {
    label: string;
    options: readonly { code: T; name: string }[];
    value: T | null;
    disabled?: boolean;
    onchange: (value: T) => void;
  }
  let { label, options, value, disabled = false, onchange }: Props = $props();
</script>

<div
  role="radiogroup"
  aria-label={label}
  class="border-base-300 bg-base-100 inline-flex flex-wrap overflow-hidden rounded-lg border"
>
  {#each options as option (option.code)}
    <button
      type="button"
      role="radio"
      aria-checked={value === option.code}
      {disabled}
      class="px-4 py-2 not-first:border-l {value === option.code
        ? 'bg-neutral text-neutral-content'
        : 'hover:bg-base-200'} border-base-300 cursor-pointer disabled:cursor-default"
      onclick={() => onchange(option.code)}>{option.name}</button
    >
  {/each}
</div>
