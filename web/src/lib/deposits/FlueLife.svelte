<script lang="ts">
  import Axis from "../drawing/Axis.svelte";
  import { scaleLinear, scaleUtc } from "d3-scale";
  import { area, line } from "d3-shape";
  import type { Schema } from "../api/client";
  import SentenceLine from "../components/SentenceLine.svelte";
  import { day, monthOf, onScale } from "../dates";
  import { tables } from "../tables.svelte";
  import SweepWhatIfs from "./SweepWhatIfs.svelte";

  interface Props {
    flue: Schema["FlueToday"];
    /** Today at the firm's place. */
    today: string;
    visits: Schema["VisitHead"][];
    /** The point of the forecast that the drawing shows. */
    month: number;
  }
  let { flue, today, visits, month = $bindable() }: Props = $props();

  const width = 680;
  const height = 290;
  const floor = 200;
  const woodTop = 222;
  const forecast = $derived(flue.answer.forecast);
  type Point = Schema["ForecastPoint"];
  const time = onScale;
  const from = $derived(time(flue.life.wood[0]?.month ?? flue.swept));
  const to = $derived(time(forecast.curve[forecast.curve.length - 1]!.date));
  const x = $derived(scaleUtc([from, to], [44, width - 12]));
  const limits = $derived([
    { mm: tables.all?.sweepFromMm ?? 0, word: "sweep" },
    { mm: tables.all?.stopFromMm ?? 0, word: "no fire" },
  ]);
  // Ticks are round in the unit that is shown.
  const shown = (mm: number) => tables.shown(mm / 1000, "thickness");
  const most = $derived(
    Math.max(
      (tables.all?.stopFromMm ?? 0) + 0.5,
      forecast.curve[forecast.curve.length - 1]!.p90Mm,
      ...flue.life.points.map((p) => p.mm),
    ),
  );
  const scale = $derived(scaleLinear([0, shown(most)], [floor, 24]).nice(4));
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
  const past = $derived(
    line<Schema["LifePoint"]>()
      .x((p) => x(time(p.day)))
      .y((p) => y(p.mm))(flue.life.points),
  );
  const mostWood = $derived(Math.max(1, ...flue.life.wood.map((w) => w.kg)));
  const wood = $derived(scaleLinear([0, mostWood], [0, height - woodTop - 22]));
  const inside = $derived(visits.filter((v) => time(v.day) >= from && time(v.day) <= to));
  const at = $derived(forecast.curve[month]!);
  const now = $derived(time(today));
</script>

{#if time(forecast.nextSweep) < now}
  <p class="border-primary border-l-4 pl-3 font-semibold">The sweep is overdue since {day(forecast.nextSweep)}.</p>
{/if}
{#each flue.answer.sentences as sentence, i (i)}<SentenceLine {sentence} />{/each}
<svg
  viewBox="0 0 {width} {height}"
  class="mt-2 w-full"
  role="group"
  aria-label="Life of this flue: visits, deposit, wood and forecast"
>
  <Axis {scale} ticks={4} from={44} to={width} />
  <text x="38" y="14" text-anchor="end" class="fill-quiet text-[11px]">{tables.unit("thickness").symbol}</text>
  {#each x.ticks(7) as tick (tick)}
    <text x={x(tick)} y={height - 4} text-anchor="middle" class="fill-quiet text-[12px]">{monthOf(tick)}</text>
  {/each}
  {#each flue.life.wood as w (w.month)}
    <rect
      x={x(time(w.month)) + 1}
      y={woodTop}
      width="6"
      height={wood(w.kg)}
      class={time(w.month) > now ? "fill-secondary" : "fill-quiet"}
      opacity={time(w.month) > now ? 0.4 : 0.7}><title>{day(w.month)}: {tables.show(w.kg, "wood")}</title></rect
    >
  {/each}
  <text x="38" y={woodTop + 12} text-anchor="end" class="fill-quiet text-[11px]">wood</text>
  <path d={fan} class="fill-secondary" opacity="0.3" />
  <path d={median} class="stroke-secondary fill-none" stroke-width="2.5" />
  <path d={past} class="stroke-base-content fill-none" stroke-width="2" />
  {#each flue.life.points.filter((p) => p.measured) as p, i (i)}
    <circle cx={x(time(p.day))} cy={y(p.mm)} r="3.5" class="fill-base-content"
      ><title>{day(p.day)}: {tables.show(p.mm / 1000, "thickness")}</title></circle
    >
  {/each}
  {#each limits as limit (limit.mm)}
    <path d="M44 {y(limit.mm)} H{width}" class="stroke-quiet" stroke-dasharray="4 4" />
    <text x="50" y={y(limit.mm) - 4} class="fill-quiet text-[11px]">{limit.word}</text>
  {/each}
  {#each inside as { row: v, day: of } (v.id)}
    <a href={v.state === "signed" ? `/report/${v.id}` : `/visits/${v.id}`} aria-label="Visit of {day(of)}">
      <path d="M{x(time(of)) - 12} 0 h24 v24 h-24 Z" fill="transparent" />
      <path
        d="M{x(time(of)) - 5} 2 h10 l-5 9 Z"
        class={v.state === "signed" ? "fill-base-content" : "fill-base-100 stroke-base-content"}
        ><title>{day(of)}: {v.purpose}</title></path
      >
    </a>
  {/each}
  {#if x(now) > 44 && x(now) < width}
    <path d="M{x(now)} 16 V{floor}" class="stroke-quiet" />
    <text x={x(now) + 4} y="24" class="fill-quiet text-[11px]">today</text>
  {/if}
  <path
    d="M{x(time(forecast.nextSweep))} 16 V{floor}"
    class="stroke-secondary"
    stroke-width="2"
    stroke-dasharray="1 3"
  />
  <text x={x(time(forecast.nextSweep)) - 4} y="24" text-anchor="end" class="fill-secondary text-[11px]">next sweep</text
  >
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
    aria-label="Month that the layer Deposits shows"
  />
  <span class="computed">{tables.show(at.p50Mm / 1000, "thickness")}</span>
</label>
<p class="text-quiet text-sm">
  Black: found and left at each sweep, between them by the wood burnt. Blue line: an ordinary year; fan: 10 to 90 %.
  Upright line in ember: the next flue. Arrowheads: visits.
</p>
<SweepWhatIfs whatIfs={flue.answer.whatIfs} />
