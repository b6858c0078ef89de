<script lang="ts">
  import { scaleLinear } from "d3-scale";
  import { area, line } from "d3-shape";
  import type { Schema } from "../api/client";
  import { tables, type Quantity } from "../tables.svelte";

  interface Props {
    answer: Schema["HotRunAnswer"];
    samples: Schema["RunReading"][];
    /** Minutes since lighting. */
    minute: number;
    /** Whether the run is over. */
    over?: boolean;
  }
  let { answer, samples, minute, over = false }: Props = $props();

  const [width, height, foot] = [480, 560, 70];
  type Sample = Schema["RunReading"];
  const most = $derived(Math.max(60, answer.typicalMin, minute + 2, ...answer.steps.map((s) => s.atMinute ?? 0)));
  // Time goes up, as smoke does.
  const y = $derived(scaleLinear([0, most], [height - foot, 24]));
  const gas = $derived(scaleLinear([0, Math.max(500, ...samples.map((s) => s.gasC ?? 0))], [54, 250]));
  const draft = $derived(
    scaleLinear(
      [0, Math.max(40, ...answer.band.map((b) => b.highPa), ...samples.map((s) => s.draftPa ?? 0))],
      [286, 466],
    ),
  );
  const curve = (x: (v: number) => number, of: (s: Sample) => number | null | undefined) =>
    line<Sample>()
      .defined((s) => of(s) != null)
      .x((s) => x(of(s)!))
      .y((s) => y(s.minute!))(samples) ?? "";
  const band = $derived(
    area<Schema["RunBand"]>()
      .y((b) => y(b.minute))
      .x0((b) => draft(b.lowPa))
      .x1((b) => draft(b.highPa))(answer.band) ?? "",
  );
  const show = (si: number, quantity: Quantity) => tables.number(si, quantity);
  const timed = $derived(answer.steps.filter((s) => s.atMinute != null));
</script>

<svg
  viewBox="0 0 {width} {height}"
  class="w-full select-none"
  role="img"
  aria-label="The hot test, {Math.floor(minute)} minutes after lighting"
>
  <text x="28" y="14" text-anchor="end" class="fill-quiet text-[11px]">min</text>
  <text x="54" y="14" class="fill-quiet text-[11px]">flue gas, {tables.unit("temperature").symbol}</text>
  <text x="286" y="14" class="fill-quiet text-[11px]">draft, {tables.unit("draft").symbol}</text>
  <rect
    x={gas(answer.coolC)}
    y={y(most)}
    width={gas(answer.hotC) - gas(answer.coolC)}
    height={y(0) - y(most)}
    class="fill-base-300"
    opacity="0.5"
  />
  {#each y.ticks(6) as tick (tick)}
    <path d="M44 {y(tick)} H{width - 8}" class="stroke-base-300" />
    <text x="28" y={y(tick) + 4} text-anchor="end" class="fill-quiet text-[11px]">{tick}</text>
  {/each}
  {#each [0, 250, 500] as c (c)}<text x={gas(c)} y={y(0) + 15} text-anchor="middle" class="fill-quiet text-[11px]"
      >{show(c, "temperature")}</text
    >{/each}
  {#each [0, 20, 40] as pa (pa)}<text x={draft(pa)} y={y(0) + 15} text-anchor="middle" class="fill-quiet text-[11px]"
      >{show(pa, "draft")}</text
    >{/each}
  <path d={band} class="fill-computed" opacity="0.25" />
  <path d={curve(gas, (s) => s.gasC)} class="stroke-base-content fill-none" stroke-width="2.5" />
  <path d={curve(draft, (s) => s.draftPa)} class="stroke-base-content fill-none" stroke-width="2.5" />
  {#each timed as step (step.step)}
    {@const at = step.mark?.minute ?? step.atMinute!}
    {#if at >= 0}
      <circle cx="44" cy={y(at)} r="4.5" class={step.mark ? "fill-success" : "fill-base-100 stroke-base-content"} />
      <text x="56" y={y(at) - 3} class="text-[12px] {step.mark ? 'fill-base-content font-semibold' : 'fill-quiet'}"
        >{step.name.toLowerCase()}{step.mark?.draftPa != null
          ? `: ${tables.show(step.mark.draftPa, "draft")}`
          : ""}</text
      >
    {/if}
  {/each}
  <path d="M44 {y(Math.max(0, minute))} H{width - 8}" class="stroke-primary" stroke-width="2.5" />
  <text x={width - 8} y={y(Math.max(0, minute)) - 6} text-anchor="end" class="fill-primary text-[12px] font-semibold"
    >{over ? "end" : "now"}, {Math.max(0, Math.floor(minute))} min</text
  >
  <rect x="70" y={height - 46} width="64" height="40" rx="3" class="fill-base-content" />
  <rect x="82" y={height - 38} width="40" height="20" class="fill-primary" />
  <path d="M30 {height - 4} H{width - 20}" class="stroke-base-content" stroke-width="2.5" />
</svg>
