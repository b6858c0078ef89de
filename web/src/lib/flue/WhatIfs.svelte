<script lang="ts">
  import type { Schema } from "../api/client";
  import { tables } from "../tables.svelte";

  interface Props {
    whatIfs: Schema["WhatIf"][];
    /** Puts a change on the board; without it they are only told. */
    onapply?: (change: Schema["WhatIf"]) => void;
  }
  let { whatIfs, onapply }: Props = $props();

  const gain = (pa: number) => `${pa >= 0 ? "+" : ""}${tables.show(pa, "draft")}`;
</script>

{#if whatIfs.length}
  <ul class="divide-base-300 divide-y">
    {#each whatIfs as change (change.code)}
      <li class="flex flex-wrap items-baseline gap-x-3 py-1">
        <span class="grow">{change.name}</span>
        <span class="computed">{gain(change.gainPa)}</span>
        <span class="text-quiet text-sm"
          >{tables.range(change.lowPa, change.highPa, "draft")}, {tables.show(change.exitGasC, "temperature")} at the top</span
        >
        {#if onapply}<button type="button" class="btn btn-sm min-h-11" onclick={() => onapply(change)}>Try it</button
          >{/if}
      </li>
    {/each}
  </ul>
{:else}
  <p class="text-quiet text-sm">Nothing to change that would be usual here.</p>
{/if}
