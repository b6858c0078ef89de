<script lang="ts">
  import { computedStops, type Step, type VisitState } from "./visit.svelte";

  interface Props {
    visit: VisitState;
    current: string;
    onpick: (code: string) => void;
  }
  let { visit, current, onpick }: Props = $props();

  // On a phone the thread lies across and scrolls: the current step stays in sight.
  let thread = $state<HTMLElement>();
  $effect(() => {
    thread?.querySelector(`[data-step="${current}"]`)?.scrollIntoView({ block: "nearest", inline: "center" });
  });

  const stopped = (step: Step) =>
    [...step.parts.map((p) => p.code), computedStops[step.code] ?? ""].some(
      (part) => visit.condition(part) === "unsafe",
    );
  const progress = (step: Step) => (stopped(step) ? "stop" : visit.status(step));
  const shape = {
    done: "border-success text-success",
    open: "border-base-300 text-quiet",
    skipped: "border-base-300 text-quiet border-dashed",
    stop: "border-error bg-error text-error-content",
  };
</script>

<nav aria-label="Steps of the visit" bind:this={thread}>
  <ol
    class="before:bg-base-300 relative flex gap-1 before:absolute max-lg:overflow-x-auto lg:flex-col lg:before:top-4 lg:before:bottom-4 lg:before:left-[1.35rem] lg:before:w-0.5"
  >
    {#each visit.doc.steps as step (step.code)}
      <li class="relative shrink-0">
        <button
          type="button"
          data-step={step.code}
          aria-current={current === step.code ? "step" : undefined}
          class="flex w-full cursor-pointer items-center gap-2 rounded-lg px-2 py-1.5 text-left text-sm {current ===
          step.code
            ? 'font-bold'
            : 'text-quiet'}"
          onclick={() => onpick(step.code)}
        >
          <span
            class="bg-base-200 flex size-7 shrink-0 items-center justify-center rounded-full border-2 text-xs {current ===
            step.code
              ? 'bg-primary! border-primary text-primary-content'
              : shape[progress(step)]}"
            aria-hidden="true"
            >{current === step.code
              ? step.number
              : { done: "✓", skipped: "–", stop: "!", open: step.number }[progress(step)]}</span
          >
          <span class="max-lg:max-w-24 max-lg:truncate">{step.name}</span>
          <span class="sr-only">{progress(step)}</span>
        </button>
      </li>
    {/each}
  </ol>
</nav>
