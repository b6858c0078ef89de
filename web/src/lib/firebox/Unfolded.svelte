<script lang="ts">
  import type { Schema } from "../api/client";
  import { tables } from "../tables.svelte";

  interface Props {
    panels: Schema["LiningPanel"][];
    layer: "condition" | "age" | "heat";
    picked: string | null;
    onpick: (brick: string) => void;
  }
  let { panels, layer, picked, onpick }: Props = $props();

  // The floor in the middle, the walls folded down around it; all to one scale, mm.
  const gap = 24;
  const of = (place: string) => panels.find((p) => p.place === place);
  const [floor, back, left, right, lip, leftArch, rightArch] = $derived(
    ["floor", "back", "left", "right", "lip", "left-arch", "right-arch"].map(of),
  );
  const across = (panel: Schema["LiningPanel"] | undefined) => (panel ? panel.heightMm + gap : 0);
  // An arch goes on where its side ends.
  const x0 = $derived(across(left) + across(leftArch));
  const y0 = $derived(across(back));
  const width = $derived(x0 + (floor?.widthMm ?? 0) + across(right) + across(rightArch));
  const height = $derived(y0 + (floor?.heightMm ?? 0) + across(lip));
  // Where a point of a panel lies: its foot is the edge of the floor that it stands on.
  function at(panel: Schema["LiningPanel"], x: number, y: number): [number, number] {
    const depth = floor?.heightMm ?? 0;
    switch (panel.place) {
      case "back":
        return [x0 + x, y0 - gap - y];
      case "left":
        return [x0 - gap - y, y0 + depth - x];
      case "left-arch":
        return [x0 - across(left) - gap - y, y0 + depth - x];
      case "right":
        return [x0 + (floor?.widthMm ?? 0) + gap + y, y0 + x];
      case "right-arch":
        return [x0 + (floor?.widthMm ?? 0) + across(right) + gap + y, y0 + x];
      case "lip":
        return [x0 + x, y0 + depth + gap + y];
      default:
        return [x0 + x, y0 + depth - y];
    }
  }
  function box(panel: Schema["LiningPanel"], b: Schema["LiningBrick"]) {
    const [x, y] = at(panel, b.xMm, b.yMm);
    const [u, v] = at(panel, b.xMm + b.widthMm, b.yMm + b.heightMm);
    return { x: Math.min(x, u), y: Math.min(y, v), w: Math.abs(u - x), h: Math.abs(v - y) };
  }
  const fills: Record<string, string> = {
    sound: "fill-success/25",
    wearing: "fill-warning/50",
    spent: "fill-base-content/60",
    unsafe: "fill-error/70",
    "not-seen": "fill-base-100",
  };
  const state = (b: Schema["LiningBrick"]) =>
    b.state ? tables.word("brickState", b.state).toLowerCase() : "not looked at";
  const most = $derived(Math.max(...panels.map((p) => p.storedKwh), 0.01));
  function fill(panel: Schema["LiningPanel"], b: Schema["LiningBrick"]) {
    if (layer === "condition") return fills[b.condition]!;
    if (layer === "age") return b.renewedOn ? "fill-secondary/40" : "fill-base-100";
    return "fill-primary";
  }
</script>

<svg
  viewBox="-4 -4 {width + 8} {height + 8}"
  class="mt-2 w-full max-w-xl"
  role="group"
  aria-label="The firebox unfolded: floor in the middle, back above, sides left and right"
>
  {#each panels as panel (panel.place)}
    {#each panel.bricks as b (b.code)}
      {@const r = box(panel, b)}
      <g
        role="button"
        tabindex="0"
        aria-pressed={picked === b.code}
        aria-label="Brick {b.number}, {panel.name.toLowerCase()}: {state(b)}"
        class="cursor-pointer"
        onclick={() => onpick(b.code)}
        onkeydown={(e) => {
          if (e.key !== "Enter" && e.key !== " ") return;
          e.preventDefault();
          onpick(b.code);
        }}
      >
        <rect
          x={r.x + 1}
          y={r.y + 1}
          width={r.w - 2}
          height={r.h - 2}
          rx="4"
          class="{fill(panel, b)} {picked === b.code ? 'stroke-primary' : 'stroke-base-content'}"
          fill-opacity={layer === "heat" ? 0.1 + (0.6 * panel.storedKwh) / most : undefined}
          stroke-width={picked === b.code ? 6 : 2}
          stroke-dasharray={panel.measured ? undefined : "8 5"}
        />
        <text
          x={r.x + r.w / 2}
          y={r.y + r.h / 2}
          dy="0.35em"
          text-anchor="middle"
          class="text-[30px] font-semibold {layer === 'condition' &&
          (b.condition === 'spent' || b.condition === 'unsafe')
            ? 'fill-base-100'
            : 'fill-base-content'}">{layer === "age" ? (b.renewedOn ? b.renewedOn.slice(0, 4) : "?") : b.number}</text
        >
      </g>
    {/each}
  {/each}
</svg>
{#if layer === "heat"}
  <ul class="flex flex-wrap gap-x-5 text-sm">
    {#each panels as panel (panel.place)}
      <li>{panel.name} <span class="computed">{tables.show(panel.storedKwh * 3.6e6, "energy")}</span></li>
    {/each}
  </ul>
{/if}
{#if panels.some((p) => !p.measured)}<p class="text-quiet text-sm">Dashed: in usual size, until it is measured.</p>{/if}
