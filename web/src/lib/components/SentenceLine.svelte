<script lang="ts">
  import type { Schema } from "../api/client";
  let { sentence }: { sentence: Schema["Sentence"] } = $props();
</script>

<p>
  {#each sentence.spans as span, i (i)}<span class={span.kind === "words" ? "" : span.kind}>{span.text}</span>{/each}
</p>
