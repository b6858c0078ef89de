<script lang="ts" module>
  /** What a strip does at a grade. */
  export const gradeWords = ["falls out", "slides", "drags", "holds"];
</script>

<script lang="ts">
  import type { Schema } from "../api/client";

  interface Props {
    answer: Schema["StripTestAnswer"];
    /** The point that is next, by its word. */
    at: string | null;
    /** Whether there is a pane in it. */
    glass: boolean;
    onpick: (code: string) => void;
  }
  let { answer, at, glass, onpick }: Props = $props();

  type Spot = Schema["StripSpot"];
  const width = 420;
  const edge = 70;
  const room = { top: 26, foot: 26 };
  const scale = $derived((width - 2 * edge) / answer.widthM);
  const height = $derived(answer.heightM * scale + room.top + room.foot);
  const x = (spot: Spot) => edge + spot.acrossM * scale;
  const y = (spot: Spot) => height - room.foot - spot.upM * scale;

  const owned = (spot: Spot) =>
    spot.owned
      .map((p, k) => `${k ? "L" : "M"}${edge + p.acrossM * scale} ${height - room.foot - p.upM * scale}`)
      .join("");
  // A grade has a colour and a dash, so that it is told without colours too.
  const stroke = ["stroke-error", "stroke-warning", "stroke-success", "stroke-success"];
  const dash = ["3 3", "8 5", "none", "none"];
  const fill = ["fill-error", "fill-warning", "fill-success", "fill-success"];
  // In the middle of a sentence.
  const when = $derived(answer.other ? answer.other.when[0]!.toLowerCase() + answer.other.when.slice(1) : "");
  const said = (spot: Spot) =>
    `${spot.name}: ${spot.grade == null ? "not pulled yet" : `${spot.grade}, ${gradeWords[spot.grade]}`}${spot.other == null ? "" : `; ${when} ${spot.other}`}`;
</script>

<svg
  viewBox="0 0 {width} {height}"
  class="mx-auto w-full max-w-xl max-sm:max-h-52"
  role="group"
  aria-label="The door from the front"
>
  <rect
    x={edge}
    y={room.top}
    width={answer.widthM * scale}
    height={answer.heightM * scale}
    rx="6"
    class="fill-base-200 stroke-base-content"
    stroke-width="2"
  />
  {#if glass}
    <rect
      x={edge + 0.12 * answer.widthM * scale}
      y={room.top + 0.16 * answer.heightM * scale}
      width={0.76 * answer.widthM * scale}
      height={0.68 * answer.heightM * scale}
      rx="4"
      class="fill-secondary/15 stroke-quiet"
    />
  {/if}
  {#each [0.2, 0.8] as hinge (hinge)}
    <rect
      x={edge - 16}
      y={room.top + hinge * answer.heightM * scale - 11}
      width="10"
      height="22"
      class="fill-base-content"
    />
  {/each}
  <path
    d="M{width - edge + 10} {room.top + 0.5 * answer.heightM * scale} h16 v26"
    class="stroke-base-content fill-none"
    stroke-width="6"
  />
  <text x={edge - 26} y={height / 2} text-anchor="end" class="fill-quiet text-xs">hinges</text>
  <text x={width - edge + 32} y={height / 2 + 4} class="fill-quiet text-xs">latch</text>
  {#each answer.spots as spot (spot.code)}
    {#if spot.grade != null}
      <path
        d={owned(spot)}
        class="{stroke[spot.grade]} fill-none"
        stroke-width="6"
        stroke-dasharray={dash[spot.grade]}
      />
    {/if}
  {/each}
  {#each answer.spots as spot (spot.code)}
    <!-- The tab goes to the digits below; a finger or the mouse picks here. -->
    <g
      role="button"
      tabindex="-1"
      aria-label={said(spot)}
      aria-pressed={spot.code === at}
      data-spot={spot.code}
      class="cursor-pointer"
      onclick={() => onpick(spot.code)}
      onkeydown={(e) => (e.key === "Enter" || e.key === " ") && onpick(spot.code)}
    >
      <circle cx={x(spot)} cy={y(spot)} r="20" class="fill-transparent" />
      {#if spot.code === at}
        <circle cx={x(spot)} cy={y(spot)} r="17" class="stroke-primary fill-none" stroke-width="3" />
      {/if}
      <circle
        cx={x(spot)}
        cy={y(spot)}
        r="12"
        class="{spot.grade == null ? 'fill-base-100' : fill[spot.grade]} stroke-base-content"
        stroke-width="1.5"
      />
      <text
        x={x(spot)}
        y={y(spot) + 4.5}
        text-anchor="middle"
        class="text-[13px] font-bold {spot.grade == null ? 'fill-quiet' : 'fill-base-100'}">{spot.grade ?? "·"}</text
      >
      {#if spot.other != null}
        <text
          x={x(spot) + (spot.acrossM === 0 ? 18 : spot.acrossM === answer.widthM ? -18 : 0)}
          y={y(spot) + (spot.acrossM > 0 && spot.acrossM < answer.widthM ? (spot.upM === 0 ? -18 : 26) : 4)}
          text-anchor="middle"
          class="fill-quiet text-[11px]">{spot.other}</text
        >
      {/if}
    </g>
  {/each}
</svg>
