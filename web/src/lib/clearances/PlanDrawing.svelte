<script lang="ts">
  import type { Schema } from "../api/client";
  import { tables } from "../tables.svelte";

  type Thing = Schema["NearThing"];
  interface Props {
    things: Thing[];
    answer: Schema["RoomPlanAnswer"];
    disabled: boolean;
    /** A thing was dragged to a distance, mm. */
    onmove: (at: number, foundMm: number) => void;
  }
  let { things, answer, disabled, onmove }: Props = $props();

  const [width, height] = [520, 380];
  const stepMm = 10;
  // What is drawn of each: where it stands, and where it has to. The two lists may differ for a moment while one is typed.
  const walls = $derived(
    things.map((thing, at) => {
      const of = answer.things[at]?.clearance;
      const neededM = (of?.withShieldMm ?? 0) / 1000;
      return {
        thing,
        at,
        side: thing.side ?? "back",
        foundM: (thing.foundMm ?? of?.withShieldMm ?? 500) / 1000,
        neededM,
        short: of?.ok === false,
      };
    }),
  );
  const most = (...sides: string[]) =>
    Math.max(0.5, ...walls.filter((w) => sides.includes(w.side)).map((w) => Math.max(w.foundM, w.neededM))) + 0.15;
  const scale = $derived(
    Math.min(
      (width - 150) / (answer.stoveWidthM + most("left") + most("right")),
      (height - 60) / (answer.stoveDepthM + most("back") + most("front")),
    ),
  );
  const stove = $derived({
    x: 75 + most("left") * scale,
    y: 30 + most("back") * scale,
    width: answer.stoveWidthM * scale,
    height: answer.stoveDepthM * scale,
  });
  // A line at a distance from its side of the stove: along it, and where its name stands.
  function line(side: string, m: number) {
    const { x, y, width: w, height: h } = stove;
    const d = m * scale;
    const reach = 46;
    if (side === "left") return { x1: x - d, y1: y - reach, x2: x - d, y2: y + h + reach };
    if (side === "right") return { x1: x + w + d, y1: y - reach, x2: x + w + d, y2: y + h + reach };
    if (side === "front") return { x1: x - reach, y1: y + h + d, x2: x + w + reach, y2: y + h + d };
    return { x1: x - reach, y1: y - d, x2: x + w + reach, y2: y - d };
  }

  let svg = $state<SVGSVGElement>();
  let dragged = $state<number | null>(null);
  const rounded = (mm: number) => Math.max(0, Math.round(mm / stepMm) * stepMm);

  function drag(event: PointerEvent) {
    if (dragged === null || !svg) return;
    const box = svg.getBoundingClientRect();
    const [px, py] = [
      ((event.clientX - box.left) * width) / box.width,
      ((event.clientY - box.top) * height) / box.height,
    ];
    const side = walls[dragged]!.side;
    const away = { left: stove.x - px, right: px - stove.x - stove.width, front: py - stove.y - stove.height };
    const d = side in away ? away[side as keyof typeof away] : stove.y - py;
    onmove(dragged, rounded((d / scale) * 1000));
  }
  function key(event: KeyboardEvent, wall: (typeof walls)[number]) {
    const by = { ArrowUp: 1, ArrowRight: 1, ArrowDown: -1, ArrowLeft: -1 }[event.key];
    if (!by || disabled) return;
    event.preventDefault();
    onmove(wall.at, rounded(wall.foundM * 1000 + by * stepMm));
  }
</script>

<svg
  bind:this={svg}
  viewBox="0 0 {width} {height}"
  class="w-full touch-none select-none"
  role="group"
  aria-label="Plan of the room, the stove from above"
  onpointermove={drag}
  onpointerup={() => (dragged = null)}
  onpointerleave={() => (dragged = null)}
>
  <rect {...stove} class="fill-base-content" rx="3" />
  <rect
    x={stove.x + stove.width * 0.2}
    y={stove.y + stove.height - 5}
    width={stove.width * 0.6}
    height="5"
    class="fill-base-300"
  />
  <circle cx={stove.x + stove.width / 2} cy={stove.y + stove.height * 0.35} r={0.075 * scale} class="fill-base-100" />
  <text
    x={stove.x + stove.width / 2}
    y={stove.y + stove.height + 14}
    text-anchor="middle"
    class="fill-quiet text-[11px]">door</text
  >
  {#each walls.filter((w) => w.side !== "above") as wall (wall.at)}
    {@const at = line(wall.side, wall.foundM)}
    {@const needed = line(wall.side, wall.neededM)}
    {@const upright = wall.side === "left" || wall.side === "right"}
    {#if wall.short}
      <rect
        x={Math.min(at.x1, needed.x1)}
        y={Math.min(at.y1, needed.y1)}
        width={upright ? Math.abs(at.x1 - needed.x1) : at.x2 - at.x1}
        height={upright ? at.y2 - at.y1 : Math.abs(at.y1 - needed.y1)}
        class="fill-error"
        opacity="0.18"
      />
    {/if}
    {#if wall.neededM > 0}<line {...needed} class="stroke-computed" stroke-width="1.5" stroke-dasharray="5 4" />{/if}
    <g
      role="slider"
      tabindex={disabled ? -1 : 0}
      aria-label="{wall.thing.name ?? 'thing'}, distance"
      aria-valuenow={Math.round(wall.foundM * 1000)}
      aria-valuemin="0"
      aria-valuemax="20000"
      aria-valuetext={tables.show(wall.foundM, "bore")}
      class={disabled ? "" : upright ? "cursor-ew-resize" : "cursor-ns-resize"}
      onpointerdown={() => !disabled && (dragged = wall.at)}
      onkeydown={(e) => key(e, wall)}
    >
      <line {...at} stroke="transparent" stroke-width="22" />
      <line
        {...at}
        class={wall.short ? "stroke-error" : "stroke-base-content"}
        stroke-width="5"
        stroke-dasharray={wall.thing.foundMm == null ? "2 5" : undefined}
      />
      <text
        x={wall.side === "left" ? at.x1 - 8 : wall.side === "right" ? at.x1 + 8 : (at.x1 + at.x2) / 2}
        y={wall.side === "front" ? at.y1 + 17 : wall.side === "back" ? at.y1 - 8 : (at.y1 + at.y2) / 2}
        text-anchor={wall.side === "left" ? "end" : wall.side === "right" ? "start" : "middle"}
        class="{wall.short ? 'fill-error' : 'fill-base-content'} text-[13px] font-semibold"
        >{upright ? "" : `${wall.thing.name ?? ""} `}{wall.thing.foundMm == null
          ? "?"
          : tables.show(wall.foundM, "bore")}</text
      >
    </g>
  {/each}
  <g transform="translate(14 {height - 14})">
    <path d="M0 -4 V4 M{0.5 * scale} -4 V4 M0 0 H{0.5 * scale}" class="stroke-base-content" stroke-width="1.5" />
    <text x={0.5 * scale + 8} y="4" class="fill-quiet text-[11px]">{tables.show(0.5, "length")}</text>
  </g>
</svg>
