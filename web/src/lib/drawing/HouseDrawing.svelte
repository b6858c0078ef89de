<script lang="ts">
  import type { Schema } from "../api/client";
  import { line, overhangM, type Bounds, type Outline, type View } from "./geometry";

  interface Props {
    house: Schema["House"];
    outline: Outline;
    shown: Bounds;
    /** Where the stove stands, m from the left wall: the rooms' names stand on the other side. */
    stoveM: number;
    view: View;
    uid: string;
    /** Width of the drawing that no curve covers. */
    room: number;
  }
  let { house, outline, shown, stoveM, view, uid, room }: Props = $props();

  const storeys = $derived.by(() => {
    let floorM = 0;
    return house.storeyHeightsM.map((height, i) => {
      const storey = { name: house.storeyNames[i] ?? "", floorM, ceilingM: floorM + height };
      floorM += height;
      return storey;
    });
  });
  const roof = $derived.by(() => {
    const { widthM, eavesM, ridgeM } = outline;
    const drop = (overhangM * (ridgeM - eavesM)) / (widthM / 2);
    return line(view, [
      { acrossM: -overhangM, heightM: eavesM - drop },
      { acrossM: widthM / 2, heightM: ridgeM },
      { acrossM: widthM + overhangM, heightM: eavesM - drop },
    ]);
  });
  const inside = $derived.by(() => {
    const { widthM, eavesM, ridgeM } = outline;
    const corners = [
      [0, 0],
      [0, eavesM],
      [widthM / 2, ridgeM],
      [widthM, eavesM],
      [widthM, 0],
    ].map(([acrossM, heightM]) => ({ acrossM: acrossM!, heightM: heightM! }));
    return `${line(view, corners)} Z`;
  });
  const namesRight = $derived(stoveM < 0.7 * outline.widthM);
  const groundY = $derived(view.y(outline.groundM));
  const foot = $derived(view.y(0));
  const tree = (name: string) => !/gable|house|wall|dormer|barn|shed/i.test(name);
</script>

<defs>
  <pattern id="{uid}-hatch" width="8" height="8" patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
    <path d="M0 0V8" class="stroke-quiet" stroke-width="1" opacity="0.45" />
  </pattern>
  <clipPath id="{uid}-shown">
    <rect x="0" y="0" width={room} height={view.height} />
  </clipPath>
</defs>

{#each outline.obstacles as o, i (i)}
  {@const cx = view.x(o.acrossM)}
  {@const half = (o.widthM / 2) * view.scale}
  {@const top = view.y(o.topM)}
  {#if cx + half > view.x(shown.left) && cx - half < view.x(shown.right)}
    <g class="fill-base-300" opacity="0.8" clip-path="url(#{uid}-shown)">
      {#if tree(o.name)}
        {@const crown = Math.max(top + 12, groundY - (groundY - top) * 0.22)}
        <rect x={cx - 0.12 * view.scale} y={crown - 4} width={0.24 * view.scale} height={groundY - crown + 4} />
        <path
          d="M{cx} {top} C{cx + half * 1.15} {top} {cx + half} {crown} {cx} {crown} S{cx -
            half * 1.15} {top} {cx} {top} Z"
        />
      {:else}
        <path d="M{cx - half} {groundY} V{top + half * 0.6} L{cx} {top} L{cx + half} {top + half * 0.6} V{groundY} Z" />
      {/if}
      <text
        x={Math.min(Math.max(cx, 34), view.x(shown.right) - 30)}
        y={groundY + 18}
        text-anchor="middle"
        class="fill-quiet text-[11px]">{o.name}</text
      >
    </g>
  {/if}
{/each}

<rect x="0" y={groundY} width={view.width} height={view.height - groundY} fill="var(--soil)" />
<rect x="0" y={groundY} width={view.width} height="8" fill="url(#{uid}-hatch)" />
<path d={inside} class="fill-base-100" />
{#each storeys as storey (storey.floorM)}
  <rect
    x={view.x(0)}
    y={view.y(storey.ceilingM)}
    width={outline.widthM * view.scale}
    height={0.2 * view.scale}
    class="fill-base-300"
  />
  <text
    x={namesRight ? view.x(outline.widthM) - 8 : view.x(0) + 8}
    y={view.y(storey.floorM) - 8}
    text-anchor={namesRight ? "end" : "start"}
    class="fill-quiet text-[11px]">{storey.name}</text
  >
{/each}
<path
  d="M{view.x(0)} {foot} V{view.y(outline.eavesM)} M{view.x(outline.widthM)} {foot} V{view.y(outline.eavesM)} M{view.x(
    0,
  )} {foot} H{view.x(outline.widthM)}"
  class="stroke-base-content"
  stroke-width="2"
/>
<path d={roof} class="stroke-base-content fill-none" stroke-width="3.5" stroke-linejoin="round" />
<path
  d="M0 {groundY} H{view.x(0)} M{view.x(outline.widthM)} {groundY} H{view.width}"
  class="stroke-base-content"
  stroke-width="2"
/>
