<script lang="ts">
  import type { Snippet } from "svelte";
  import type { Schema } from "../api/client";
  import AssumedList from "../components/AssumedList.svelte";
  import SentenceLine from "../components/SentenceLine.svelte";
  import type { Reckoner } from "./reckoner.svelte";

  interface Props {
    reckoner: Reckoner<{ sentences: Schema["Sentence"][] }>;
    /** What is said; the answer's own sentences unless a view picks some. */
    sentences?: Schema["Sentence"][];
    /** Defaults that stood in for missing entries. */
    assumed: Schema["Assumed"][];
    /** Stands between the heading and the sentences. */
    picture?: Snippet;
    more?: Snippet;
  }
  let { reckoner, sentences, assumed, picture, more }: Props = $props();
  const said = $derived(sentences ?? reckoner.answer?.sentences ?? []);
  let folded = $state(true);
</script>

<!-- On a phone it stays in sight at the foot while something is typed, and folds to its first sentence. -->
<section
  aria-labelledby="reckoning"
  aria-live="polite"
  class="border-base-content bg-base-100 mt-4 border-t-2 pt-2 max-lg:sticky max-lg:bottom-16 max-lg:z-10 max-lg:max-h-[45vh] max-lg:overflow-y-auto max-lg:pb-2"
>
  <div class="flex items-center justify-between">
    <h3 id="reckoning">The reckoning</h3>
    <button
      type="button"
      class="btn btn-ghost btn-sm min-h-11 lg:hidden"
      aria-expanded={!folded}
      onclick={() => (folded = !folded)}>{folded ? "All of it" : "Less"}</button
    >
  </div>
  {#if reckoner.away}<p class="text-quiet">{reckoner.away}</p>{/if}
  {#if reckoner.answer}
    <div class={folded ? "max-lg:hidden" : ""}>{@render picture?.()}</div>
    {#each said as sentence, i (i)}
      <div class={folded && i > 0 ? "max-lg:hidden" : ""}><SentenceLine {sentence} /></div>
    {/each}
    <div class={folded ? "max-lg:hidden" : ""}>
      {@render more?.()}
      <AssumedList {assumed} />
    </div>
  {:else if Object.keys(reckoner.refused).length}
    <p class="text-quiet">The reckoning waits for entries it can use.</p>
  {/if}
</section>
