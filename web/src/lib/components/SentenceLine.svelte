<script lang="ts">
  import type { Schema } from "../api/client";
  let { sentence, inline = false }: { sentence: Schema["Sentence"]; inline?: boolean } = $props();
</script>

<svelte:element this={inline ? "span" : "p"} class={sentence.weight === "stop" ? "text-error font-semibold" : ""}>
  {#each sentence.spans as span, i (i)}<span
      class={span.kind === "words" || sentence.weight === "stop" ? "" : span.kind}>{span.text}</span
    >{/each}
</svelte:element>
