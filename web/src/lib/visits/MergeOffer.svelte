<script lang="ts" generics="T extends object">
  import { differences } from "./differences";
  import type { Saver, Stored } from "./saver.svelte";

  interface Props {
    saver: Saver<T, Stored>;
    mine: object;
    theirs: object;
    by?: string;
    /** What ids in them stand for. */
    names?: Record<string, string>;
    /** The value to go on with. */
    take: (from: "mine" | "theirs" | "both") => object;
    /** Whether notes of both can be kept. */
    both?: boolean;
  }
  let { saver, mine, theirs, by, names, take, both = false }: Props = $props();
  const fields = $derived(differences(mine, theirs, names));
  const resolve = (from: "mine" | "theirs" | "both") => saver.resolve(take(from) as T);
</script>

<div role="alert" class="border-primary bg-base-200 mb-4 border-l-4 p-3">
  <strong>{by ?? saver.stored?.savedBy} saved another version of this in between.</strong>
  <table class="table-sm table">
    <thead><tr><th>What differs</th><th>Here</th><th>Saved meanwhile</th></tr></thead>
    <tbody>
      {#each fields as field (field.path)}
        <tr>
          <td>{field.name}</td>
          <td class="measured whitespace-pre-wrap">{field.mine}</td>
          <td class="measured whitespace-pre-wrap">{field.theirs}</td>
        </tr>
      {/each}
    </tbody>
  </table>
  <div class="mt-2 flex flex-wrap gap-2">
    <button class="btn btn-sm min-h-11" onclick={() => resolve("mine")}>Use what is typed here</button>
    <button class="btn btn-sm min-h-11" onclick={() => resolve("theirs")}>Use what was saved meanwhile</button>
    {#if both}<button class="btn btn-sm min-h-11" onclick={() => resolve("both")}>This one, with both notes</button
      >{/if}
  </div>
</div>
