<script lang="ts">
  import Axis from "./Axis.svelte";
  import { scaleLinear } from "d3-scale";
  import { line } from "d3-shape";
  import type { Schema } from "../api/client";
  import { tables } from "../tables.svelte";

  interface Props {
    answer: Schema["DraftAnswer"];
    left: number;
    width: number;
    yOf: (heightM: number) => number;
    /** Where the dashed line from the flue starts, at a length along it. */
    fromAt: (lengthM: number) => number;
  }
  let { answer, left, width, yOf, fromAt }: Props = $props();

  const profile = $derived(answer.profile ?? []);
  // Ticks are round in the unit that is shown.
  const shown = (c: number) => tables.shown(c, "temperature");
  const coldest = $derived(Math.min(0, ...profile.map((p) => p.wallC)));
  const scale = $derived(
    scaleLinear([shown(coldest), shown(Math.max(100, ...profile.map((p) => p.gasC)))], [left, left + width]).nice(2),
  );
  const x = (c: number) => scale(shown(c));
  const top = $derived(yOf(profile[profile.length - 1]?.heightM ?? 0));
  const bottom = $derived(yOf(0));
  const curve = (of: (p: Schema["ProfilePoint"]) => number) =>
    line<Schema["ProfilePoint"]>(
      (p) => x(of(p)),
      (p) => yOf(p.heightM),
    )(profile);
  const crossing = $derived(profile.find((p) => p.wallC < answer.dewPointC) ?? null);
</script>

<g aria-hidden="true">
  <text x={left + width} y={top - 24} text-anchor="end" class="fill-quiet text-[11px]"
    >gas, wall, {tables.unit("temperature").symbol}</text
  >
  <Axis {scale} ticks={2} numbers="above" from={top} to={bottom} />
  <path
    d="M{x(answer.dewPointC)} {top} V{bottom}"
    class="stroke-secondary"
    stroke-width="1.2"
    stroke-dasharray="1.5 3"
  />
  <text x={x(answer.dewPointC) + 3} y={bottom + 14} text-anchor="middle" class="computed fill-secondary text-[11px]"
    >dew {tables.number(answer.dewPointC, "temperature")}</text
  >
  <path d={curve((p) => p.gasC)} class="stroke-primary fill-none" stroke-width="2.5" />
  <path d={curve((p) => p.wallC)} class="stroke-secondary fill-none" stroke-width="2" stroke-dasharray="6 3" />
  {#if crossing}
    <path
      d="M{fromAt(crossing.lengthM)} {yOf(crossing.heightM)} H{x(crossing.wallC)}"
      class="stroke-secondary"
      stroke-dasharray="3 4"
    />
    <circle
      cx={x(crossing.wallC)}
      cy={yOf(crossing.heightM)}
      r="5"
      class="fill-base-100 stroke-secondary"
      stroke-width="2"
    />
    <text x={left + width} y={yOf(crossing.heightM) + 16} text-anchor="end" class="computed fill-secondary text-[12px]"
      >wet from here</text
    >
  {/if}
  <text
    x={x(answer.exitGasC)}
    y={top + 14}
    text-anchor="start"
    dx="5"
    class="fill-base-content text-[12px] font-semibold">{tables.number(answer.exitGasC, "temperature")}</text
  >
</g>
