<script lang="ts">
  import type { Schema } from "../api/client";
  import type { View } from "./geometry";

  interface Props {
    stove: Schema["Stove"];
    acrossM: number;
    floorM: number;
    view: View;
    /** Whether a fire is allowed: only then it burns. */
    fire?: boolean;
  }
  let { stove, acrossM, floorM, view, fire = true }: Props = $props();

  const s = $derived(view.scale);
  const collar = $derived(stove.collarHeightM);
  const built = $derived(stove.kind === "insert" || stove.kind === "zero-clearance");
  const width = $derived(
    stove.kind === "masonry-heater" ? 1.1 : stove.kind === "cookstove" ? 0.95 : built ? 0.85 : 0.66,
  );
</script>

<g transform="translate({view.x(acrossM)} {view.y(floorM)})">
  {#if stove.kind === "masonry-heater"}
    <rect
      x={(-width / 2) * s}
      y={-(collar + 0.5) * s}
      width={width * s}
      height={(collar + 0.5) * s}
      class="fill-base-300 stroke-base-content"
      stroke-width="2"
    />
    {#each [0.25, 0.5, 0.75] as row (row)}
      <path d="M{(-width / 2) * s} {-(collar + 0.5) * row * s} h{width * s}" class="stroke-quiet" stroke-width="1" />
    {/each}
  {:else if built}
    <path
      d="M{(-width / 2 - 0.18) * s} 0 V{-(collar + 0.1) * s} H{(width / 2 + 0.18) * s} V0"
      class="fill-base-300 stroke-base-content"
      stroke-width="1.5"
    />
    <rect
      x={(-width / 2) * s}
      y={-collar * s}
      width={width * s}
      height={(collar - 0.1) * s}
      rx="2"
      class="fill-base-content stroke-base-100"
    />
  {:else}
    <rect
      x={(-width / 2) * s}
      y={-collar * s}
      width={width * s}
      height={(collar - 0.12) * s}
      rx="2"
      class="fill-base-content stroke-base-100"
    />
    <path
      d="M{-0.25 * s} {-0.12 * s} V0 M{0.25 * s} {-0.12 * s} V0"
      class="stroke-base-content"
      stroke-width={0.06 * s}
    />
    {#if stove.kind === "cookstove"}
      <rect
        x={(-width / 2 - 0.05) * s}
        y={-collar * s}
        width={(width + 0.1) * s}
        height={0.05 * s}
        class="fill-base-content"
      />
      <rect
        x={0.05 * s}
        y={-collar * 0.8 * s}
        width={0.36 * s}
        height={collar * 0.36 * s}
        rx="2"
        class="fill-none stroke-base-100"
        stroke-width="1.5"
      />
    {/if}
  {/if}
  <rect
    x={(stove.kind === "cookstove" ? -0.4 : -0.21) * s}
    y={-collar * 0.83 * s}
    width={(stove.kind === "cookstove" ? 0.34 : 0.42) * s}
    height={collar * 0.42 * s}
    rx="2"
    class={fire ? "fill-primary" : "fill-quiet"}
  />
  <rect x={(-width / 2 - 0.3) * s} y="-3" width={(width + 0.6) * s} height="4" class="fill-base-content" />
</g>
