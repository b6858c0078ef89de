<script lang="ts">
  /** Buttons that add a row of a kind to a list. */
  interface Props {
    label: string;
    kinds: readonly { code: string; name: string }[];
    /** Whether the list is as long as it may be. */
    full: boolean;
    onadd: (code: string) => void;
  }
  let { label, kinds, full, onadd }: Props = $props();
</script>

<div class="mt-2 flex flex-wrap gap-2" role="group" aria-label={label}>
  {#each kinds as kind (kind.code)}
    <button type="button" class="btn btn-sm min-h-11" disabled={full} onclick={() => onadd(kind.code)}
      >+ {kind.name.toLowerCase()}</button
    >
  {/each}
</div>
