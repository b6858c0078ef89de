<script lang="ts">
  import type { Schema } from "../api/client";
  import { tables } from "../tables.svelte";
  let { assumed }: { assumed: Schema["Assumed"][] } = $props();

  // The later of two defaults of a field is the one that was used: one typed elsewhere stands above the handbook's.
  const used = $derived([...new Map(assumed.map((a) => [a.field, a])).values()]);
</script>

{#if used.length}
  <details class="mt-2 text-sm">
    <summary class="text-quiet min-h-11 cursor-pointer py-2">What was assumed ({used.length})</summary>
    <ul class="space-y-1">
      {#each used as item (item.field)}
        <li>
          <span class="computed">{tables.assumed(item)}</span>
          <span class="text-quiet">{tables.word("mark", item.mark).toLowerCase()}: {item.reason}</span>
        </li>
      {/each}
    </ul>
  </details>
{/if}
