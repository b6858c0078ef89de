<script lang="ts">
  import Axis from "../drawing/Axis.svelte";
  import { scaleLinear, scalePoint } from "d3-scale";
  import { area, line } from "d3-shape";
  import type { Schema } from "../api/client";
  import { tables } from "../tables.svelte";

  let { year, needPa }: { year: Schema["DraftYear"]; needPa: number } = $props();

  const width = 620;
  const height = 190;
  const names = ["Jan", "Feb", "Mar", "Apr", "May", "Jun", "Jul", "Aug", "Sep", "Oct", "Nov", "Dec"];
  const x = scalePoint(
    names.map((_, i) => i + 1),
    [64, width - 24],
  );
  // Ticks are round in the unit that is shown.
  const draft = (pa: number) => tables.shown(pa, "draft");
  const scale = $derived(
    scaleLinear(
      [
        draft(Math.min(0, ...year.months.map((m) => m.lowPa))),
        draft(Math.max(needPa * 1.3, ...year.months.map((m) => m.highPa))),
      ],
      [height - 42, 8],
    ).nice(4),
  );
  const y = $derived((pa: number) => scale(draft(pa)));
  type Month = Schema["YearMonth"];
  const band = $derived(
    area<Month>()
      .x((m) => x(m.month)!)
      .y0((m) => y(m.lowPa))
      .y1((m) => y(m.highPa))(year.months),
  );
  const curve = $derived(
    line<Month>()
      .x((m) => x(m.month)!)
      .y((m) => y(m.expectedPa))(year.months),
  );
  const heaviest = $derived(Math.max(...year.months.map((m) => m.seasonShare)));
</script>

<svg
  viewBox="0 0 {width} {height}"
  class="w-full"
  role="img"
  aria-label="Expected draft at low fire for each month: {year.months
    .map((m) => `${names[m.month - 1]} ${tables.show(m.expectedPa, 'draft')}`)
    .join(', ')}"
>
  <Axis {scale} ticks={4} from={44} to={width} />
  <path d={band} class="fill-secondary" opacity="0.3" />
  <path d={curve} class="stroke-secondary fill-none" stroke-width="2.5" />
  <path d="M44 {y(needPa)} H{width}" class="stroke-quiet" stroke-dasharray="4 4" />
  <text x={width - 4} y={y(needPa) - 4} text-anchor="end" class="fill-quiet text-[11px]"
    >needs {tables.show(needPa, "draft")}</text
  >
  {#each year.months as m (m.month)}
    {@const cx = x(m.month)!}
    <text x={cx} y={height - 4} text-anchor="middle" class="fill-quiet text-[12px]">{names[m.month - 1]}</text>
    <!-- How much of the season falls into the month, and how much of that is too weak. -->
    {@const tall = (m.seasonShare / heaviest) * 16}
    <rect x={cx - 9} y={height - 20 - tall} width="18" height={tall} class="fill-base-300" />
    <rect x={cx - 9} y={height - 20 - tall * m.belowShare} width="18" height={tall * m.belowShare} class="fill-quiet" />
  {/each}
</svg>
<p>
  Below the need for <span class="computed">{tables.show(year.belowShare, "share")}</span> of the season{#if year.weakFromC != null},
    from <span class="computed">{tables.show(year.weakFromC, "temperature")}</span> outdoors on{/if}. A mild day, low
  fire:
  <span class="computed">{tables.show(year.mild.expectedPa, "draft")}</span> at {tables.show(
    year.mild.outdoorC,
    "temperature",
  )}; a cold day, high fire: <span class="computed">{tables.show(year.cold.expectedPa, "draft")}</span> at
  {tables.show(year.cold.outdoorC, "temperature")}.
</p>
<p class="text-quiet text-sm">
  Small bars: share of the season in the month by heating degree days; in ember the part of it below the need.
</p>
