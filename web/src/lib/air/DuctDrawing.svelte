<script lang="ts">
  import type { Schema } from "../api/client";
  import { end, line, pointIn, type View } from "../drawing/geometry";
  import { tables } from "../tables.svelte";

  interface Props {
    /** From the stove to the intake. */
    path: Schema["LaidPoint"][];
    view: View;
    /** A run was dragged to a length, m; null where nothing may be changed. */
    onstretch: ((run: number, lengthM: number) => void) | null;
  }
  let { path, view, onstretch }: Props = $props();

  const stepM = 0.05;
  const [shortest, longest] = [0.05, 20];
  // A run to the back is drawn slanted, at half its length.
  const slant = 0.5;
  let dragged = $state<number | null>(null);

  const lengthOf = (at: number) => {
    const [dx, dy] = [path[at + 1]!.acrossM - path[at]!.acrossM, path[at + 1]!.heightM - path[at]!.heightM];
    const drawn = Math.hypot(dx, dy);
    return drawn / (dx && dy ? slant : 1);
  };
  const kept = (m: number) => Math.min(longest, Math.max(shortest, Math.round(m / stepM) * stepM));

  function drag(event: PointerEvent, at: number) {
    const svg = (event.currentTarget as SVGElement).ownerSVGElement;
    if (dragged !== at || !svg) return;
    const point = pointIn(svg, event);
    const [from, to] = [path[at]!, path[at + 1]!];
    const [ux, uy] = [to.acrossM - from.acrossM, to.heightM - from.heightM];
    const drawn = Math.hypot(ux, uy);
    const [px, py] = [(point.x - view.x(from.acrossM)) / view.scale, (view.y(from.heightM) - point.y) / view.scale];
    onstretch?.(at, kept((px * ux + py * uy) / drawn / (ux && uy ? slant : 1)));
  }
  function press(event: KeyboardEvent, at: number) {
    const by = { ArrowUp: 1, ArrowRight: 1, ArrowDown: -1, ArrowLeft: -1 }[event.key];
    if (!by || !onstretch) return;
    event.preventDefault();
    onstretch(at, kept(lengthOf(at) + by * stepM));
  }
</script>

<g role="group" aria-label="Outside-air duct">
  <path d={line(view, path)} class="stroke-computed fill-none" stroke-width="6" stroke-linejoin="round" />
  <path d={line(view, path)} class="stroke-base-100 fill-none" stroke-width="3" stroke-linejoin="round" />
  {#if onstretch}
    {#each path.slice(1) as point, i (i)}
      <g
        transform="translate({view.x(point.acrossM)} {view.y(point.heightM)})"
        role="slider"
        tabindex="0"
        aria-label="Run {i + 1} of the duct"
        aria-valuenow={Number(lengthOf(i).toFixed(2))}
        aria-valuemin={shortest}
        aria-valuemax={longest}
        aria-valuetext={tables.show(lengthOf(i), "length")}
        class="cursor-move touch-none"
        onpointerdown={(e) => {
          dragged = i;
          e.currentTarget.setPointerCapture(e.pointerId);
          e.preventDefault();
        }}
        onpointermove={(e) => drag(e, i)}
        onpointerup={() => (dragged = null)}
        onpointercancel={() => (dragged = null)}
        onkeydown={(e) => press(e, i)}
      >
        <circle r="15" class="fill-transparent" />
        <circle r="6" class="fill-base-100 stroke-computed" stroke-width="2.5" />
      </g>
    {/each}
  {:else}
    <circle
      cx={view.x(end(path).acrossM)}
      cy={view.y(end(path).heightM)}
      r="5"
      class="fill-base-100 stroke-computed"
      stroke-width="2"
    />
  {/if}
</g>
