<script lang="ts">
  import Mark from "../components/Mark.svelte";
  import { tables } from "../tables.svelte";
  import { computedParts, conditions, type VisitState } from "./visit.svelte";

  let { visit, onpart }: { visit: VisitState; onpart: (part: string) => void } = $props();

  const weight = ["unsafe", "spent", "wearing", "not-seen", "sound"];
  const found = $derived(
    Object.entries(visit.findings)
      .filter(([, f]) => f.value.condition)
      .sort(([, a], [, b]) => weight.indexOf(a.value.condition) - weight.indexOf(b.value.condition)),
  );
  const name = (code: string) => conditions.find((c) => c.code === code)?.name ?? code;
</script>

<section aria-labelledby="tray" class="border-base-300 border-t px-4 py-2">
  <h3 id="tray" class="text-sm">Findings ({found.length})</h3>
  {#if found.length === 0}
    <p class="text-quiet text-sm">Nothing marked yet. Mark a part in a station, or tap one in the drawing.</p>
  {:else}
    <ul class="flex flex-wrap gap-1.5 py-1">
      {#each found as [part, finding] (part)}
        <li class="border-base-300 bg-base-100 flex items-center rounded-lg border text-sm">
          <button
            type="button"
            class="flex cursor-pointer items-center gap-1.5 px-2 py-1"
            title={finding.value.note}
            onclick={() => onpart(part)}
          >
            <Mark condition={finding.value.condition} />
            {tables.partName(part)}<span class="text-quiet">{name(finding.value.condition)}</span>
          </button>
          {#if visit.writable && !computedParts.includes(part)}
            <button
              type="button"
              class="text-quiet cursor-pointer px-2"
              aria-label="Take back {tables.partName(part)}"
              onclick={() => visit.dropFinding(part)}>×</button
            >
          {/if}
        </li>
      {/each}
    </ul>
  {/if}
</section>
