<script lang="ts">
  import type { ScaleLinear } from "d3-scale";

  interface Props {
    scale: ScaleLinear<number, number>;
    /** About how many ticks. */
    ticks: number;
    /** Lines across with their numbers at the left, or lines down with their numbers above or below. */
    numbers?: "left" | "above" | "below";
    /** Where the lines begin and end. */
    from: number;
    to: number;
    /** Written after each number. */
    unit?: string;
  }
  let { scale, ticks, numbers = "left", from, to, unit = "" }: Props = $props();
  const shown = $derived(scale.tickFormat(ticks));
</script>

{#each scale.ticks(ticks) as tick (tick)}
  {#if numbers === "left"}
    <path d="M{from} {scale(tick)} H{to}" class="stroke-base-300" />
    <text x={from - 6} y={scale(tick) + 4} text-anchor="end" class="fill-quiet text-[12px]">{shown(tick)}{unit}</text>
  {:else}
    <path d="M{scale(tick)} {from} V{to}" class="stroke-base-300" />
    <text
      x={scale(tick)}
      y={numbers === "above" ? from - 8 : to + 18}
      text-anchor="middle"
      class="fill-quiet text-[11px]">{shown(tick)}{unit}</text
    >
  {/if}
{/each}
