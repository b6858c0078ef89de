<script lang="ts">
  import type { Step, VisitState } from "./visit.svelte";

  interface Props {
    visit: VisitState;
    current: string;
  }
  let { visit, current }: Props = $props();

  // On a phone the thread lies across and scrolls: the current step stays in sight.
  let thread = $state<HTMLElement>();
  $effect(() => {
    thread?.querySelector(`[data-step="${current}"]`)?.scrollIntoView({ block: "nearest", inline: "center" });
  });

  const stopped = (step: Step) =>
    step.marks.some((m) => visit.conditionIn(step.code, m.code) === "unsafe") ||
    visit.doc.stops.some((n) => n.stop.visitId === visit.id && n.stop.step === step.code && !n.stop.clearedAt);
  const refused = (step: Step) => visit.refused.some((r) => r.step === step.code);
  const progress = (step: Step) => (stopped(step) ? "stop" : refused(step) ? "refused" : visit.status(step));
  const shape = {
    done: "border-success text-success",
    open: "border-base-300 text-quiet",
    skipped: "border-base-300 text-quiet border-dashed",
    stop: "border-error bg-error text-error-content",
    refused: "border-error text-error",
  };
  const words = { done: "done", open: "open", skipped: "skipped", stop: "stop", refused: "not saved" };
</script>

<nav aria-label="Steps of the visit" bind:this={thread}>
  <ol
    class="before:bg-base-300 relative flex gap-1 before:absolute max-lg:overflow-x-auto lg:flex-col lg:before:top-4 lg:before:bottom-4 lg:before:left-[1.35rem] lg:before:w-0.5"
  >
    {#each visit.doc.steps as step (step.code)}
      {@const at = progress(step)}
      <li class="relative shrink-0">
        <a
          href="/visits/{visit.id}/{step.code}"
          data-step={step.code}
          aria-current={current === step.code ? "step" : undefined}
          class="flex min-h-11 w-full items-center gap-2 rounded-lg px-2 text-left text-sm {current === step.code
            ? 'outline-base-content font-bold outline-2 -outline-offset-2'
            : 'text-quiet'}"
        >
          <span
            class="bg-base-200 flex size-7 shrink-0 items-center justify-center rounded-full border-2 text-xs {shape[
              at
            ]}"
            aria-hidden="true">{{ done: "✓", skipped: "–", stop: "!", refused: "!", open: step.number }[at]}</span
          >
          <span class="max-lg:max-w-24 max-lg:truncate">{step.name}</span>
          <span class="sr-only">{words[at]}</span>
        </a>
      </li>
    {/each}
  </ol>
</nav>
