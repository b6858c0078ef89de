<script lang="ts">
  import Axis from "./Axis.svelte";
  import { scaleLinear } from "d3-scale";
  import { area, line } from "d3-shape";
  import type { Schema } from "../api/client";
  import { tables } from "../tables.svelte";

  interface Props {
    answer: Schema["DraftAnswer"];
    readingPa: number | null;
    left: number;
    width: number;
    yOf: (heightM: number) => number;
    /** Where the dashed line from the collar starts. */
    from: number;
  }
  let { answer, readingPa, left, width, yOf, from }: Props = $props();

  const profile = $derived(answer.profile ?? []);
  const collar = $derived(answer.expectedPa - answer.housePa - answer.windPa);
  const greatest = $derived(Math.max(10, answer.highPa, readingPa ?? 0));
  // Ticks are round in the unit that is shown.
  const draft = (pa: number) => tables.shown(pa, "draft");
  const scale = $derived(scaleLinear([0, draft(greatest)], [left, left + width]).nice(2));
  const x = $derived((pa: number) => scale(draft(pa)));
  const top = $derived(yOf(profile[profile.length - 1]?.heightM ?? 0));
  const bottom = $derived(yOf(0));
  // House and wind act at the collar alone; the curve ends where the gauge reads. The band narrows with the draft above.
  const share = (p: Schema["ProfilePoint"]) => (collar > 0 ? p.draftPa / collar : 0);
  const curve = $derived(
    line<Schema["ProfilePoint"]>(
      (p) => x(share(p) * answer.expectedPa),
      (p) => yOf(p.heightM),
    )(profile),
  );
  const band = $derived(
    area<Schema["ProfilePoint"]>()
      .y((p) => yOf(p.heightM))
      .x0((p) => x(share(p) * answer.lowPa))
      .x1((p) => x(share(p) * answer.highPa))(profile),
  );
</script>

<g aria-hidden="true">
  <text x={left + width} y={top - 24} text-anchor="end" class="fill-quiet text-[11px]"
    >pull, {tables.unit("draft").symbol}</text
  >
  <Axis {scale} ticks={2} numbers="above" from={top} to={bottom} />
  <path d={band} class="fill-secondary" opacity="0.3" />
  <path d={curve} class="stroke-secondary fill-none transition-all duration-150" stroke-width="2.5" />
  <path d="M{from} {bottom} H{left + width}" class="stroke-base-content" stroke-dasharray="3 4" />
  <text x={x(answer.expectedPa)} y={bottom + 18} text-anchor="middle" class="computed fill-secondary text-[13px]"
    >{tables.number(answer.expectedPa, "draft")}</text
  >
  {#if readingPa !== null}
    <circle cx={x(Math.max(0, readingPa))} cy={bottom} r="6" class="fill-base-content" />
    <text
      x={x(Math.max(0, readingPa))}
      y={bottom - 11}
      text-anchor="middle"
      class="fill-base-content text-[13px] font-semibold">{tables.number(readingPa, "draft")}</text
    >
  {/if}
</g>
