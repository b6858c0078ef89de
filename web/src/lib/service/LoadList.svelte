<script lang="ts">
  import type { Schema } from "../api/client";
  import Tick from "../components/Tick.svelte";
  import { loadedOn } from "./loaded.svelte";

  /** Everything that a round needs from the van, each thing once, with where it is for. */
  let { stops, day, title }: { stops: Schema["TodayStop"][]; day: string; title: string } = $props();

  const loaded = $derived(loadedOn(day));
  const items = $derived(
    [...new Set(stops.flatMap((s) => s.fromTheVan))].map((what) => ({
      what,
      where: stops.filter((s) => s.fromTheVan.includes(what)).map((s) => s.stop.street),
    })),
  );
  const left = $derived(items.filter((i) => !loaded.has(i.what)).length);
</script>

{#if items.length}
  <details class="bg-base-100 border-base-300 mt-6 rounded-lg border p-4">
    <summary class="min-h-11 cursor-pointer text-lg"
      >{title}:
      {#if left}<span class="computed">{left}</span> of {items.length} to load{:else}all is loaded{/if}</summary
    >
    <ul>
      {#each items as item (item.what)}
        <li class="border-base-300 border-t">
          <Tick label={item.what} checked={loaded.has(item.what)} onchange={(on) => loaded.tick(item.what, on)} />
          <span class="text-quiet block pb-2 pl-9 text-sm"
            >{item.where.length === stops.length && stops.length > 1 ? "every stop" : item.where.join(", ")}</span
          >
        </li>
      {/each}
    </ul>
  </details>
{/if}
