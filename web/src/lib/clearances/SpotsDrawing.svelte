<script lang="ts">
  import type { Schema } from "../api/client";
  import { pointIn } from "../drawing/geometry";
  import { tables } from "../tables.svelte";

  type Spot = Schema["ReadSpot"];
  interface Props {
    spots: Spot[];
    answer: Schema["SurfaceCheckAnswer"];
    disabled: boolean;
    /** A spot was dragged: how far from the stove, or how high, mm. */
    onplace: (at: number, by: { awayMm?: number; heightMm?: number }) => void;
  }
  let { spots, answer, disabled, onplace }: Props = $props();

  const [width, height, stepMm] = [250, 230, 10];
  type Placed = { at: number; place: Schema["SpotPlace"]; of: Schema["SpotAnswer"] | undefined; name: string };
  // The two lists may differ for a moment while a surface is added.
  const placed = $derived<Placed[]>(
    spots.flatMap((spot, at) => {
      const place = answer.places[at];
      return place
        ? [{ at, place, of: answer.reckoned?.spots.find((s) => s.label === spot.label), name: spot.label ?? "" }]
        : [];
    }),
  );
  const body = $derived(answer.body);
  const reach = $derived(
    Math.max(0.5, ...placed.filter((p) => p.place.side !== "above").map((p) => p.place.awayM)) + 0.2,
  );
  const tall = $derived(Math.max(body.heightM + 0.4, 1.6, ...placed.map((p) => p.place.heightM + 0.15)));
  // From above, and from in front; each as large as its half takes it.
  const plan = $derived(Math.min((width - 20) / (body.widthM + 2 * reach), (height - 40) / (body.depthM + 2 * reach)));
  const front = $derived(Math.min((width - 20) / (body.widthM + 2 * reach), (height - 40) / tall));
  const [px, py, floor] = [width / 2, (height + 10) / 2, height - 14];

  const overhead = $derived(placed.filter((p) => p.place.side === "above").map((p) => p.at));
  const above = (p: Placed) =>
    ({
      left: { x: px - (body.widthM / 2 + p.place.awayM) * plan, y: py },
      right: { x: px + (body.widthM / 2 + p.place.awayM) * plan, y: py },
      back: { x: px, y: py - (body.depthM / 2 + p.place.awayM) * plan },
      front: { x: px, y: py + (body.depthM / 2 + p.place.awayM) * plan },
      // What lies above it stands side by side on it.
      above: { x: px + (overhead.indexOf(p.at) - (overhead.length - 1) / 2) * 20, y: py },
    })[p.place.side];
  const facing = (p: Placed) => {
    const aside = { left: -1, right: 1, back: 0, front: 0, above: 0 }[p.place.side];
    return { x: px + aside * (body.widthM / 2 + p.place.awayM) * front, y: floor - p.place.heightM * front };
  };
  const text = (p: Placed) =>
    p.of
      ? `${tables.number(p.of.riseK, "temperature-difference")} now, ${tables.show(p.of.riseHighK, "temperature-difference")} at high fire, of ${tables.show(p.of.limitK, "temperature-difference")}`
      : "not read";

  let dragged = $state<{ at: number; plan: boolean } | null>(null);
  const rounded = (mm: number) => Math.max(0, Math.round(mm / stepMm) * stepMm);
  function drag(event: PointerEvent, p: Placed, inPlan: boolean) {
    const svg = (event.currentTarget as SVGElement).ownerSVGElement;
    if (!svg || dragged?.at !== p.at || dragged.plan !== inPlan) return;
    const point = pointIn(svg, event);
    if (!inPlan) {
      onplace(p.at, { heightMm: rounded(((floor - point.y) / front) * 1000) });
      return;
    }
    const away = {
      left: (px - point.x) / plan - body.widthM / 2,
      right: (point.x - px) / plan - body.widthM / 2,
      back: (py - point.y) / plan - body.depthM / 2,
      front: (point.y - py) / plan - body.depthM / 2,
      above: p.place.awayM,
    }[p.place.side];
    onplace(p.at, { awayMm: rounded(away * 1000) });
  }
  function press(event: KeyboardEvent, p: Placed, inPlan: boolean) {
    const by = { ArrowUp: 1, ArrowRight: 1, ArrowDown: -1, ArrowLeft: -1 }[event.key];
    if (!by || disabled) return;
    event.preventDefault();
    const m = inPlan ? p.place.awayM : p.place.heightM;
    onplace(p.at, { [inPlan ? "awayMm" : "heightMm"]: rounded(m * 1000 + by * stepMm) });
  }
</script>

{#snippet spot(p: Placed, at: { x: number; y: number }, inPlan: boolean)}
  <g
    transform="translate({at.x} {at.y})"
    role="slider"
    tabindex={disabled ? -1 : 0}
    aria-label="{p.name}, {inPlan ? 'distance from the stove' : 'height above the floor'}"
    aria-valuenow={Math.round((inPlan ? p.place.awayM : p.place.heightM) * 1000)}
    aria-valuemin="0"
    aria-valuemax={inPlan ? 20000 : 6000}
    aria-valuetext={tables.show(inPlan ? p.place.awayM : p.place.heightM, "length")}
    class="touch-none {disabled ? '' : 'cursor-move'}"
    onpointerdown={(e) => {
      if (disabled) return;
      dragged = { at: p.at, plan: inPlan };
      e.currentTarget.setPointerCapture(e.pointerId);
      e.preventDefault();
    }}
    onpointermove={(e) => drag(e, p, inPlan)}
    onpointerup={() => (dragged = null)}
    onpointercancel={() => (dragged = null)}
    onkeydown={(e) => press(e, p, inPlan)}
  >
    <circle r="14" class="fill-transparent" />
    <circle
      r="9"
      class={p.of === undefined ? "fill-base-100 stroke-base-content" : p.of.passes ? "fill-computed" : "fill-error"}
      stroke-width="1.5"
    />
    <text y="4" text-anchor="middle" class="text-[11px] font-bold {p.of ? 'fill-base-100' : 'fill-base-content'}"
      >{p.at + 1}</text
    >
  </g>
{/snippet}

<div class="grid grid-cols-2 gap-3 max-sm:grid-cols-1">
  <svg viewBox="0 0 {width} {height}" class="w-full select-none" role="group" aria-label="Spots from above">
    <text x="0" y="11" class="fill-quiet text-[11px]">from above</text>
    <rect
      x={px - (body.widthM / 2) * plan}
      y={py - (body.depthM / 2) * plan}
      width={body.widthM * plan}
      height={body.depthM * plan}
      rx="3"
      class="fill-base-content"
    />
    <text x={px} y={py + (body.depthM / 2) * plan + 12} text-anchor="middle" class="fill-quiet text-[11px]">door</text>
    {#each placed as p (p.at)}{@render spot(p, above(p), true)}{/each}
  </svg>
  <svg viewBox="0 0 {width} {height}" class="w-full select-none" role="group" aria-label="Spots from in front">
    <text x="0" y="11" class="fill-quiet text-[11px]">from in front</text>
    <path d="M4 {floor} H{width - 4}" class="stroke-base-content" stroke-width="2" />
    <rect
      x={px - (body.widthM / 2) * front}
      y={floor - body.heightM * front}
      width={body.widthM * front}
      height={body.heightM * front}
      rx="3"
      class="fill-base-content"
    />
    {#each placed as p (p.at)}{@render spot(p, facing(p), false)}{/each}
  </svg>
</div>
<ul class="text-quiet flex flex-wrap gap-x-5 text-sm" aria-label="Spots in the drawings">
  {#each placed as p (p.at)}<li><span class="font-bold">{p.at + 1}</span> {p.name}: {text(p)}</li>{/each}
</ul>
