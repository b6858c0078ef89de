<script lang="ts">
  import type { Layout, View } from "../drawing/geometry";
  import { end, pointIn } from "../drawing/geometry";
  import { turnsSquare, type FlueEditor } from "./editor.svelte";

  interface Props {
    editor: FlueEditor;
    layout: Layout;
    view: View;
    svg: SVGSVGElement | undefined;
  }
  let { editor, layout, view, svg }: Props = $props();

  let dragging = $state<number | null>(null);

  function down(event: PointerEvent, index: number) {
    dragging = index;
    editor.selected = index;
    editor.settle();
    (event.currentTarget as Element).setPointerCapture(event.pointerId);
    event.preventDefault();
  }

  function drag(event: PointerEvent, index: number) {
    const segment = editor.board.segments[index];
    const start = layout.segments[index]?.path[0];
    if (dragging !== index || !segment || !start) return;
    const { x, y } = pointIn(svg!, event);
    editor.drag(
      index,
      (view.y(start.heightM) - y) / view.scale,
      (x - view.x(start.acrossM)) / view.scale,
      turnsSquare(segment),
    );
  }

  function up() {
    dragging = null;
    editor.settle();
  }
</script>

{#each layout.segments as segment, i (i)}
  {@const to = end(segment.path)}
  <g transform="translate({view.x(to.acrossM)} {view.y(to.heightM)})" aria-hidden="true">
    <circle
      r="15"
      class="cursor-move touch-none fill-transparent"
      role="presentation"
      onpointerdown={(e) => down(e, i)}
      onpointermove={(e) => drag(e, i)}
      onpointerup={up}
      onpointercancel={up}
    />
    <circle
      r={i === editor.selected ? 7 : 4.5}
      class="pointer-events-none {i === editor.selected
        ? 'fill-base-100 stroke-base-content'
        : 'stroke-base-100 fill-base-content'}"
      stroke-width="2"
    />
    {#if i === editor.selected}
      <g
        transform="translate({(segment.outerM * view.scale) / 2 + 24} 0)"
        class="cursor-pointer"
        role="presentation"
        onpointerdown={() => editor.add(i)}
      >
        <circle r="12" class="fill-base-100 stroke-base-content" stroke-width="1.5" />
        <path d="M-5 0 H5 M0 -5 V5" class="stroke-base-content" stroke-width="2" />
      </g>
    {/if}
  </g>
{/each}
