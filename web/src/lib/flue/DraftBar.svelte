<script lang="ts">
  import { scaleLinear } from "d3-scale";
  import type { Schema } from "../api/client";
  import Axis from "../drawing/Axis.svelte";
  import { tables } from "../tables.svelte";

  let { answer, readingPa }: { answer: Schema["DraftAnswer"]; readingPa: number | null } = $props();

  const uid = $props.id();
  const width = 520;
  // Ticks are round in the unit that is shown.
  const draft = (pa: number) => tables.shown(pa, "draft");
  const scale = $derived(
    scaleLinear(
      [draft(Math.min(0, readingPa ?? 0)), draft(Math.max(30, answer.highPa, answer.need.maxPa, readingPa ?? 0))],
      [12, width - 16],
    ).nice(6),
  );
  const x = $derived((pa: number) => scale(draft(pa)));
  const words = $derived(
    `Expected ${tables.range(answer.lowPa, answer.highPa, "draft")}, ` +
      (answer.baseline
        ? `by its own record ${tables.range(answer.baseline.lowPa, answer.baseline.highPa, "draft")}, `
        : "") +
      `needed ${tables.range(answer.need.minPa, answer.need.maxPa, "draft")}` +
      (readingPa === null ? "" : `, read ${tables.show(readingPa, "draft")}`),
  );
</script>

<svg viewBox="0 0 {width} 88" class="w-full" role="img" aria-label={words}>
  <defs>
    <pattern id="{uid}-need" width="7" height="7" patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
      <rect width="3" height="7" class="fill-base-300" />
    </pattern>
  </defs>
  <rect x="12" y="26" width={width - 28} height="16" rx="3" class="fill-base-300" opacity="0.5" />
  <Axis {scale} ticks={6} numbers="below" from={42} to={47} />
  <rect
    x={x(answer.need.minPa)}
    y="26"
    width={x(answer.need.maxPa) - x(answer.need.minPa)}
    height="16"
    fill="url(#{uid}-need)"
  />
  <rect
    x={x(answer.lowPa)}
    y="26"
    width={Math.max(2, x(answer.highPa) - x(answer.lowPa))}
    height="16"
    class="fill-secondary transition-all duration-150"
    opacity="0.6"
  />
  {#if answer.baseline}
    <path
      d="M{x(answer.baseline.lowPa)} 45 H{x(answer.baseline.highPa)} M{x(answer.baseline.expectedPa)} 41 v8"
      class="stroke-secondary"
      stroke-width="3"
    />
  {/if}
  <path d="M{x(answer.expectedPa)} 26 v16" class="stroke-secondary" stroke-width="3" />
  <text x={x(answer.expectedPa)} y="18" text-anchor="middle" class="computed fill-secondary text-[13px]"
    >expected {tables.range(answer.lowPa, answer.highPa, "draft")}</text
  >
  <text x={(x(answer.need.minPa) + x(answer.need.maxPa)) / 2} y="80" text-anchor="middle" class="fill-quiet text-[12px]"
    >needs {tables.range(answer.need.minPa, answer.need.maxPa, "draft")}</text
  >
  {#if readingPa !== null}
    <path d="M{x(readingPa)} 20 v28" class="stroke-base-content" stroke-width="5" />
    {#if Math.abs(x(readingPa) - x(answer.expectedPa)) > 130}
      <text x={x(readingPa)} y="14" text-anchor="middle" class="fill-base-content text-[14px] font-bold"
        >{tables.number(readingPa, "draft")}</text
      >
    {/if}
  {/if}
</svg>
