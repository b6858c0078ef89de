<script lang="ts">
  import type { VisitState } from "./visit.svelte";
  let { visit }: { visit: VisitState } = $props();

  const savers = $derived([...Object.values(visit.steps), ...Object.values(visit.findings)]);
  const has = (state: string) => savers.some((s) => s.state === state);
</script>

<p
  role="status"
  class="text-sm {has('waiting') || has('refused') || has('stale')
    ? 'decoration-primary font-semibold underline decoration-2'
    : 'text-quiet'}"
>
  {#if has("stale")}
    Not saved: someone saved another version
  {:else if has("refused")}
    Not saved: see the sentences in red
  {:else if has("waiting")}
    Not saved yet: kept in this browser, sent when the server is back
  {:else if has("typing") || has("saving")}
    Saving …
  {:else if visit.doc.visit.state === "signed"}
    Signed by {visit.doc.visit.signedBy}
  {:else if !visit.doc.mayWrite}
    {visit.doc.visit.technician}’s visit: reading only
  {:else}
    Saved
  {/if}
</p>
