<script lang="ts">
  import { tables } from "../tables.svelte";
  import { end, type Layout, type View } from "./geometry";

  // How far "near" reaches and what the top needs come from the core with the layout; this draws what is missing.
  let { layout, view }: { layout: Layout; view: View } = $props();

  const last = $derived(layout.segments[layout.segments.length - 1]!);
  const top = $derived(end(last.path));
  const missing = $derived(layout.top?.missingM ?? 0);
  const half = $derived((last.outerM / 2) * view.scale);
  const x = $derived(view.x(top.acrossM));
  // The words stand where there is room for them.
  const atEdge = $derived(x + half + 110 > view.width);
  const asked = $derived(view.y(top.heightM + missing));
</script>

{#if missing > 0}
  <g>
    <path
      d="M{x - half} {view.y(top.heightM) - 20} V{asked} H{x + half} V{view.y(top.heightM) - 20}"
      class="stroke-base-content fill-none"
      stroke-width="2"
      stroke-dasharray="5 4"
    />
    <text
      x={atEdge ? x - half - 7 : x + half + 7}
      y={Math.max(14, asked + 10)}
      text-anchor={atEdge ? "end" : "start"}
      class="fill-base-content text-[12px] font-semibold"
      >{tables.show(missing, "length")} missing{layout.asUsual ? "," : ""}{#if layout.asUsual}<tspan
          x={atEdge ? x - half - 7 : x + half + 7}
          dy="14">as usually built</tspan
        >{/if}</text
    >
  </g>
{/if}
