<script lang="ts">
  import type { VisitState } from "./visit.svelte";
  let { visit }: { visit: VisitState } = $props();

  const has = (state: string) => visit.savers.some((s) => s.saver.state === state);
  const first = (state: string) => visit.savers.find((s) => s.saver.state === state);
  const bad = $derived(first("stale") ?? first("refused") ?? visit.savers.find((s) => s.saver.held));
  const lost = $derived(visit.savers.some((s) => s.saver.dirty && !s.saver.keptHere));
</script>

<!-- What is wrong somewhere hides nothing of what becomes of the step in hand: both are said. -->
<p role="status" class="text-sm">
  {#if bad}
    <a class="decoration-primary font-semibold underline decoration-2" href="/visits/{visit.id}/{bad.step}"
      >{bad.saver.state === "stale"
        ? `Not saved: someone saved another version of ${bad.name}`
        : bad.saver.held
          ? `Not saved: say why ${bad.name} is unsafe`
          : `Not saved: ${bad.name} has an entry that cannot be used`}</a
    >.
  {/if}
  <span class={has("waiting") || lost ? "decoration-primary font-semibold underline decoration-2" : "text-quiet"}>
    {#if lost}
      Not saved yet, and this browser’s store is full: stay on this page until it is sent
    {:else if has("waiting")}
      Not saved yet: kept in this browser, sent when the server is back
    {:else if visit.savers.some((s) => s.saver.state === "typing" && !s.saver.held) || has("saving")}
      Saving …
    {:else if visit.signed}
      Signed by {visit.doc.visit.row.signedBy}
    {:else if !visit.doc.mayWrite}
      {visit.doc.visit.row.technician}’s visit: reading only
    {:else}
      {bad ? "Everything else is saved" : "Saved"}
    {/if}
  </span>
</p>
