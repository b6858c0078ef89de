<script lang="ts">
  import type { Schema } from "../api/client";
  import SentenceLine from "../components/SentenceLine.svelte";
  import AssumedList from "./AssumedList.svelte";
  import type { Reckoner } from "./reckoner.svelte";

  interface Props {
    id: string;
    reckoner: Reckoner<{ sentences: Schema["Sentence"][] }>;
    /** Defaults that stood in for missing entries. */
    assumed: Schema["Assumed"][];
  }
  let { id, reckoner, assumed }: Props = $props();
</script>

<section aria-labelledby={id} class="border-base-content mt-2 border-t-2 pt-2" aria-live="polite">
  <h3 {id}>The reckoning</h3>
  {#if reckoner.away}<p class="text-quiet">{reckoner.away}</p>{/if}
  {#if reckoner.answer}
    {#each reckoner.answer.sentences as sentence, i (i)}<SentenceLine {sentence} />{/each}
    <AssumedList {assumed} />
  {:else if Object.keys(reckoner.refused).length}
    <p class="text-quiet">The reckoning waits for entries it can use.</p>
  {/if}
</section>
