<script lang="ts">
  interface Props {
    id: string;
    label: string;
    value: string;
    /** Most characters. */
    most: number;
    errors?: string[];
    disabled?: boolean;
    required?: boolean;
    rows?: number;
    onchange: (value: string) => void;
  }
  let { id, label, value, most, errors = [], disabled = false, required = false, rows = 1, onchange }: Props = $props();
</script>

<div>
  <label class="text-quiet mb-1 block text-sm" for={id}>{label}</label>
  {#if rows > 1}
    <textarea
      {id}
      {rows}
      {disabled}
      {required}
      class="textarea w-full"
      maxlength={most}
      {value}
      aria-invalid={errors.length > 0}
      oninput={(e) => onchange(e.currentTarget.value)}></textarea>
  {:else}
    <input
      {id}
      {disabled}
      {required}
      class="input min-h-11 w-full"
      maxlength={most}
      {value}
      aria-invalid={errors.length > 0}
      oninput={(e) => onchange(e.currentTarget.value)}
    />
  {/if}
  {#each errors as sentence, n (n)}<p class="text-error text-sm">{sentence}</p>{/each}
</div>
