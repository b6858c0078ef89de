<script lang="ts">
  import type { Schema } from "../api/client";
  import { tables } from "../tables.svelte";

  let { remarks }: { remarks: Schema["FlueRemark"][] } = $props();
</script>

{#each remarks as remark, i (i)}
  <p class="border-warning mt-1 border-l-4 pl-3 text-sm">
    {remark.sentence} <span class="text-quiet">({tables.word("mark", remark.mark).toLowerCase()})</span>
  </p>
{/each}
