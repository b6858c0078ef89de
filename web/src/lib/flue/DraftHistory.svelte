<script lang="ts">
  import Axis from "../drawing/Axis.svelte";
  import { scaleLinear, scaleUtc } from "d3-scale";
  import type { Schema } from "../api/client";
  import { day, onScale } from "../dates";
  import { tables } from "../tables.svelte";

  let { readings, needPa }: { readings: Schema["PastReading"][]; needPa: number | null } = $props();

  const width = 620;
  const height = 230;
  const times = $derived(readings.map((r) => onScale(r.day)));
  const year = 31_557_600_000;
  const x = $derived(scaleUtc([Math.min(...times) - year / 6, Math.max(...times) + year / 6], [44, width - 8]));
  // Ticks are round in the unit that is shown.
  const draft = (pa: number) => tables.shown(pa, "draft");
  const scale = $derived(
    scaleLinear(
      [
        draft(Math.min(0, ...readings.map((r) => r.draftPa))),
        draft(Math.max(30, ...readings.map((r) => Math.max(r.highPa, r.draftPa)))),
      ],
      [height - 28, 10],
    ).nice(5),
  );
  const y = $derived((pa: number) => scale(draft(pa)));
  // Readings of one day at several fires stand side by side.
  const aside: Record<string, number> = { low: -14, normal: 0, high: 14 };
  const outside = (r: Schema["PastReading"]) => r.verdict === "below-expected" || r.verdict === "above-expected";
</script>

<svg
  viewBox="0 0 {width} {height}"
  class="w-full"
  role="img"
  aria-label="Draft measured against expected at {readings.length} readings; the table below has the numbers"
>
  <Axis {scale} ticks={5} from={44} to={width} />
  {#if needPa !== null}
    <path d="M44 {y(needPa)} H{width}" class="stroke-quiet" stroke-dasharray="4 4" />
    <text x={width - 4} y={y(needPa) - 4} text-anchor="end" class="fill-quiet text-[11px]"
      >needs {tables.show(needPa, "draft")}</text
    >
  {/if}
  {#each readings as r (r.visitId + r.level)}
    {@const cx = x(onScale(r.day)) + (aside[r.level] ?? 0)}
    <rect
      x={cx - 5}
      y={y(r.highPa)}
      width="10"
      height={y(r.lowPa) - y(r.highPa)}
      class="fill-secondary"
      opacity="0.35"
    />
    <path d="M{cx - 7} {y(r.expectedPa)} h14" class="stroke-secondary" stroke-width="2" />
    {#if outside(r)}
      <rect
        x={cx - 5}
        y={y(r.draftPa) - 5}
        width="10"
        height="10"
        class="fill-warning"
        transform="rotate(45 {cx} {y(r.draftPa)})"
      />
    {:else}
      <circle {cx} cy={y(r.draftPa)} r="4.5" class="fill-base-content" />
    {/if}
  {/each}
  {#each [...new Set(readings.map((r) => r.day))] as at (at)}
    <text x={x(onScale(at))} y={height - 8} text-anchor="middle" class="fill-quiet text-[12px]">{day(at)}</text>
  {/each}
</svg>
<p class="text-quiet text-sm">
  Dot: measured. Diamond: outside its band. <span class="computed">Bar: expected then, 5–95 %.</span> Unit: {tables.unit(
    "draft",
  ).symbol}
</p>
<details class="text-sm">
  <summary class="text-quiet cursor-pointer">As a table</summary>
  <table class="table-sm table">
    <thead><tr><th>Visit</th><th>Fire</th><th>Measured</th><th>Expected</th></tr></thead>
    <tbody>
      {#each readings as r (r.visitId + r.level)}
        <tr>
          <td>{day(r.day)}</td>
          <td>{tables.word("firingLevel", r.level)}</td>
          <td class="measured">{tables.show(r.draftPa, "draft")}</td>
          <td class="computed">{tables.range(r.lowPa, r.highPa, "draft")}</td>
        </tr>
      {/each}
    </tbody>
  </table>
</details>
