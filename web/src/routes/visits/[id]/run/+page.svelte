<script lang="ts">
  import { page } from "$app/state";
  import { failure, type Schema } from "$lib/api/client";
  import RunDrawing from "$lib/burning/RunDrawing.svelte";
  import Failure from "$lib/components/Failure.svelte";
  import SentenceLine from "$lib/components/SentenceLine.svelte";
  import { day } from "$lib/dates";
  import { readVisit, type Visit } from "$lib/visits/visit.svelte";

  // The hot test as one page, to be turned to the household or printed: no fields, nothing of anybody else.
  let doc = $state<Visit | null>(null);
  let failed = $state("");
  $effect(() => {
    void readVisit(page.params.id!).then((answer) => {
      failed = failure(answer);
      if (answer.kind === "ok") doc = answer.data;
    });
  });
  const saved = $derived(
    doc?.steps.flatMap((s) => s.stations).find((s) => s.code === "hot-run" && s.saved?.answer)?.saved ?? null,
  );
  const run = $derived(saved?.entry as Schema["HotRun"] | undefined);
  const answer = $derived(saved?.answer as Schema["HotRunAnswer"] | undefined);
  const samples = $derived(run?.samples ?? []);
  const minute = $derived(
    Math.max(0, ...samples.map((s) => s.minute ?? 0), ...(run?.marks ?? []).map((m) => m.minute ?? 0)),
  );
</script>

<svelte:head><title>Hot test · Grate</title></svelte:head>

{#if failed}<Failure sentence={failed} />{/if}
{#if doc}
  <div class="mx-auto max-w-5xl p-6 max-sm:p-3">
    <div class="flex flex-wrap items-baseline gap-x-4">
      <h1 class="text-2xl">Your stove with a fire in it</h1>
      <p class="text-quiet mr-auto">{doc.customer.name}, {doc.stove.model}, {day(doc.visit.day)}; {doc.firm}</p>
      <a class="link no-print" href="/visits/{doc.visit.row.id}/hot-test/hot-run">Back to the visit</a>
      <button type="button" class="btn no-print min-h-11" onclick={() => print()}>Print it</button>
    </div>
    {#if answer && run?.startedAt}
      <div class="mt-4 grid grid-cols-[1fr_1.1fr] gap-8 max-md:grid-cols-1">
        <RunDrawing {answer} {samples} {minute} over={run.endedAt != null} />
        <dl>
          {#each answer.questions as q (q.question)}
            <div class="border-base-300 border-t py-2">
              <dt class="text-lg font-semibold">
                {q.ok == null ? "○" : q.ok ? "✓" : "✗"}
                {q.question}
              </dt>
              <dd class="pl-6 {q.ok === false ? 'text-error font-semibold' : ''}">
                <SentenceLine sentence={q.answer} />
              </dd>
            </div>
          {/each}
        </dl>
      </div>
      <p class="text-quiet mt-4 text-sm">
        Time goes up, as smoke does. The shaded band on the left is where flue gas is neither too cool nor too hot; the
        one on the right is the draft this flue should have had then.
      </p>
    {:else}
      <p class="mt-4">No fire was run in this visit yet.</p>
    {/if}
  </div>
{:else if !failed}
  <p class="p-6"><span class="loading loading-dots" aria-label="Loading"></span></p>
{/if}
