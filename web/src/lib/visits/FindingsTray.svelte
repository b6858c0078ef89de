<script lang="ts">
  import Mark from "../components/Mark.svelte";
  import { tables } from "../tables.svelte";
  import { gravity, type VisitState } from "./visit.svelte";

  let { visit, onpart }: { visit: VisitState; onpart: (part: string, step?: string) => void } = $props();

  // As the visit goes, not as the answers came in.
  const order = (step: string, part: string) => {
    const at = visit.doc.steps.findIndex((s) => s.code === step);
    return 100 * at + (visit.doc.steps[at]?.marks.findIndex((m) => m.code === part) ?? 0);
  };
  const found = $derived(
    Object.entries(visit.findings)
      .filter(([, f]) => f.value.condition)
      .map(([key, finding]) => ({ key, finding, step: key.split("/")[0]!, part: key.split("/")[1]! }))
      .sort(
        (a, b) =>
          gravity.indexOf(a.finding.value.condition) - gravity.indexOf(b.finding.value.condition) ||
          order(a.step, a.part) - order(b.step, b.part),
      ),
  );
  const byNumbers = $derived(
    visit.doc.stops.filter((n) => n.stop.visitId === visit.id && n.stop.station && !n.stop.clearedAt),
  );
  // A part that is marked before and after says which.
  const twice = (part: string) => found.filter((f) => f.part === part).length > 1;
</script>

<section aria-labelledby="tray" class="border-base-300 border-t px-4 py-2">
  <h3 id="tray" class="text-sm">Findings ({found.length + byNumbers.length})</h3>
  {#if found.length + byNumbers.length === 0}
    <p class="text-quiet text-sm">Nothing marked yet. Mark a part in a step, or tap one in the drawing.</p>
  {:else}
    <ul class="flex flex-wrap gap-1.5 py-1">
      {#each byNumbers as n (n.stop.id)}
        <li class="border-error bg-base-100 flex items-center rounded-lg border text-sm">
          <a
            href="/visits/{visit.id}/{n.stop.step}/{n.stop.station}"
            class="flex min-h-11 items-center gap-1.5 px-2"
            title={n.stop.why}
          >
            <Mark condition="unsafe" />{n.sentence.split(":")[0]}
          </a>
        </li>
      {/each}
      {#each found as { key, finding, step, part } (key)}
        <li class="border-base-300 bg-base-100 flex items-center rounded-lg border text-sm">
          <button
            type="button"
            class="flex min-h-11 cursor-pointer items-center gap-1.5 px-2"
            title={finding.value.note}
            onclick={() => onpart(part, step)}
          >
            <Mark condition={finding.value.condition} />
            {tables.partName(part)}{#if twice(part)}<span class="text-quiet"
                >, {visit.stepName(step).toLowerCase()}</span
              >{/if}<span class="text-quiet">{tables.word("condition", finding.value.condition)}</span>
          </button>
          {#if visit.writable}
            <button
              type="button"
              class="text-quiet min-h-11 min-w-9 cursor-pointer px-2"
              aria-label="Take back {tables.partName(part)}"
              onclick={() => visit.dropFinding(key)}>×</button
            >
          {/if}
        </li>
      {/each}
    </ul>
  {/if}
</section>
