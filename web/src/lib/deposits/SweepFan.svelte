<script lang="ts">
  import { scaleLinear, scaleTime } from "d3-scale";
  import { area, line } from "d3-shape";
  import type { Schema } from "../api/client";
  import SentenceLine from "../components/SentenceLine.svelte";
  import { day } from "../dates";
  import { tables } from "../tables.svelte";
  import SweepWhatIfs from "./SweepWhatIfs.svelte";

  interface Props {
    sweep: Schema["LastSweep"];
    /** The point of the forecast that the drawing shows. */
    month: number;
  }
  let { sweep, month = $bindable() }: Props = $props();

  const width = 620;
  const height = 190;
  const forecast = $derived(sweep.answer.forecast);
  type Point = Schema["ForecastPoint"];
  const time = (date: string) => new Date(date).getTime();
  const x = $derived(
    scaleTime([time(forecast.curve[0]!.date), time(forecast.curve[forecast.curve.length - 1]!.date)], [44, width - 12]),
  );
  const limits = $derived([
    { mm: tables.all?.sweepFromMm ?? 0, word: "sweep" },
    { mm: tables.all?.stopFromMm ?? 0, word: "no fire" },
  ]);
  // Ticks are round in the unit that is shown.
  const shown = (mm: number) => tables.shown(mm / 1000, "thickness");
  const most = $derived(
    Math.max((tables.all?.stopFromMm ?? 0) + 0.5, forecast.curve[forecast.curve.length - 1]!.p90Mm),
  );
  const scale = $derived(scaleLinear([0, shown(most)], [height - 28, 8]).nice(4));
  const y = $derived((mm: number) => scale(shown(mm)));
  const fan = $derived(
    area<Point>()
      .x((p) => x(time(p.date)))
      .y0((p) => y(p.p10Mm))
      .y1((p) => y(p.p90Mm))(forecast.curve),
  );
  const median = $derived(
    line<Point>()
      .x((p) => x(time(p.date)))
      .y((p) => y(p.p50Mm))(forecast.curve),
  );
  const at = $derived(forecast.curve[month]!);
</script>

{#if time(forecast.nextSweep) < Date.now()}
  <p class="border-primary border-l-4 pl-3 font-semibold">The sweep is overdue since {day(forecast.nextSweep)}.</p>
{/if}
{#each sweep.answer.sentences as sentence, i (i)}<SentenceLine {sentence} />{/each}
<SweepWhatIfs whatIfs={sweep.answer.whatIfs} />
<svg viewBox="0 0 {width} {height}" class="w-full" role="img" aria-label="Forecast of the thickness at the worst spot">
  {#each scale.ticks(4) as tick (tick)}
    <path d="M44 {scale(tick)} H{width}" class="stroke-base-300" />
    <text x="38" y={scale(tick) + 4} text-anchor="end" class="fill-quiet text-[12px]">{scale.tickFormat(4)(tick)}</text>
  {/each}
  {#each x.ticks(6) as tick (tick)}
    <text x={x(tick)} y={height - 8} text-anchor="middle" class="fill-quiet text-[12px]"
      >{tick.toLocaleDateString("en-GB", { month: "short", year: "2-digit" })}</text
    >
  {/each}
  <path d={fan} class="fill-secondary" opacity="0.3" />
  <path d={median} class="stroke-secondary fill-none" stroke-width="2.5" />
  {#each limits as limit (limit.mm)}
    <path d="M44 {y(limit.mm)} H{width}" class="stroke-quiet" stroke-dasharray="4 4" />
    <text x="50" y={y(limit.mm) - 4} class="fill-quiet text-[11px]">{limit.word}</text>
  {/each}
  <path d="M{x(time(forecast.nextSweep))} 8 V{height - 28}" class="stroke-primary" stroke-width="2" />
  <circle cx={x(time(at.date))} cy={y(at.p50Mm)} r="5" class="fill-base-100 stroke-secondary" stroke-width="2" />
</svg>
<label class="flex items-center gap-3 text-sm">
  <span class="text-quiet">Drawing on {day(at.date)}</span>
  <input
    type="range"
    class="range range-xs grow"
    min="0"
    max={forecast.curve.length - 1}
    bind:value={month}
    aria-label="Month that the skin Deposits shows"
  />
  <span class="computed">{tables.show(at.p50Mm / 1000, "thickness")}</span>
</label>
<p class="text-quiet text-sm">
  Line: an ordinary year. Fan: 10 to 90 %. Upright line: the next sweep. Swept {day(sweep.day)}; at the worst spot
  {tables.show((sweep.record.leftMm ?? 0) / 1000, "thickness")} were left.
</p>
