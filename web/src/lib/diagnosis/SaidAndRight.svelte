<script lang="ts">
  import type { Schema } from "../api/client";

  /** How sure first suspects were, and how often they were right: on the line is just as sure as one may be. */
  let { bins }: { bins: Schema["SaidAndRight"][] } = $props();
  const size = 260;
  const edge = 34;
  const at = (percent: number) => edge + (percent / 100) * (size - 2 * edge);
  const up = (percent: number) => size - at(Math.min(100, Math.max(0, percent)));
</script>

<figure>
  <svg
    viewBox="0 0 {size} {size}"
    class="w-full max-w-sm"
    role="img"
    aria-label={bins.map((b) => `said ${b.said.toFixed(0)} %, right ${b.right.toFixed(0)} % of ${b.cases}`).join("; ")}
  >
    {#each [0, 50, 100] as tick (tick)}
      <path d="M{at(tick)} {up(0)} V{up(100)} M{at(0)} {up(tick)} H{at(100)}" class="stroke-base-300 fill-none" />
      <text x={at(tick)} y={size - 12} class="fill-quiet text-[11px]" text-anchor="middle">{tick} %</text>
      <text x={edge - 6} y={up(tick) + 4} class="fill-quiet text-[11px]" text-anchor="end">{tick}</text>
    {/each}
    <path d="M{at(0)} {up(0)} L{at(100)} {up(100)}" class="stroke-quiet fill-none" stroke-dasharray="4 3" />
    {#each bins as b (b.from)}
      <path d="M{at(b.said)} {up(b.said - b.off)} V{up(b.said + b.off)}" class="stroke-base-content fill-none" />
      <circle cx={at(b.said)} cy={up(b.right)} r={4 + Math.min(8, Math.sqrt(b.cases))} class="fill-primary" />
    {/each}
  </svg>
  <figcaption class="text-quiet text-sm">
    Across: how sure the first suspect was. Up: how often it was right. The bar is what chance alone may do; a dot is
    the larger the more cases.
  </figcaption>
</figure>
