<script lang="ts">
  import type { Schema } from "../api/client";
  import { tables } from "../tables.svelte";

  type Kind = Schema["StockKind"];
  let { id, value, onchange }: { id: string; value: Kind; onchange: (kind: Kind) => void } = $props();
</script>

<label class="text-quiet text-sm" for={id}
  >Kind
  <select {id} class="select flex min-h-11 w-44" {value} onchange={(e) => onchange(e.currentTarget.value as Kind)}>
    {#each tables.words("stockKind") as kind (kind.code)}<option value={kind.code}>{kind.name}</option>{/each}
  </select></label
>
