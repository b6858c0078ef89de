<script lang="ts">
  import type { VisitState } from "./visit.svelte";
  let { visit }: { visit: VisitState } = $props();

  const has = (state: string) => visit.savers.some((s) => s.saver.state === state);
  const first = (state: string) => visit.savers.find((s) => s.saver.state === state)!;
</script>

<p
  role="status"
  class="text-sm {has('waiting') || has('refused') || has('stale')
    ? 'decoration-primary font-semibold underline decoration-2'
    : 'text-quiet'}"
>
  {#if has("stale")}
    <a href="/visits/{visit.id}/{first('stale').step}"
      >Not saved: someone saved another version of {first("stale").name}</a
    >
  {:else if has("refused")}
    <a href="/visits/{visit.id}/{first('refused').step}"
      >Not saved: {first("refused").name} has an entry that cannot be used</a
    >
  {:else if has("waiting")}
    Not saved yet: kept in this browser, sent when the server is back
  {:else if has("typing") || has("saving")}
    Saving …
  {:else if visit.signed}
    Signed by {visit.doc.visit.row.signedBy}
  {:else if !visit.doc.mayWrite}
    {visit.doc.visit.row.technician}’s visit: reading only
  {:else}
    Saved
  {/if}
</p>
