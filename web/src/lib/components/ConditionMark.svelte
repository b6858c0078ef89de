<script lang="ts">
  /** Marks differ by shape, not by colour alone. Drawn in a 16 × 16 box round (0, 0). */
  let { condition }: { condition: string } = $props();
</script>

{#if condition === "sound"}
  <circle r="6" class="fill-base-100 stroke-success" stroke-width="2.5" />
{:else if condition === "wearing"}
  <circle r="6" class="fill-base-100 stroke-warning" stroke-width="2" />
  <path d="M0 -6 A6 6 0 0 0 0 6 Z" class="fill-warning" />
{:else if condition === "spent"}
  <rect x="-6" y="-6" width="12" height="12" class="fill-base-content" />
{:else if condition === "unsafe"}
  <path d="M0 -8 L8 0 L0 8 L-8 0 Z" class="fill-error" />
  <path d="M-4.5 0 H4.5" class="stroke-base-100" stroke-width="2.5" />
{:else}
  <circle r="6" class="stroke-quiet fill-base-100" stroke-width="2" stroke-dasharray="2 3" />
{/if}
