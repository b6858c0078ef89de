<script lang="ts">
  import type { Schema } from "../api/client";
  let { sentence, inline = false }: { sentence: Schema["Sentence"]; inline?: boolean } = $props();
</script>

<svelte:element this={inline ? "span" : "p"}>
  {#each sentence.spans as span, i (i)}<span class={span.kind === "words" ? "" : span.kind}>{span.text}</span>{/each}
</svelte:element>
