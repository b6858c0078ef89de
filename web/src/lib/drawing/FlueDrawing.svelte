<script lang="ts">
  import type { Schema } from "../api/client";
  import { along, end, line, masonry, middle, part, type Layout, type Point, type View } from "./geometry";

  interface Props {
    flue: Schema["FlueEntry"];
    layout: Layout;
    view: View;
    uid: string;
    /** Gas temperatures colour the bore; otherwise it is plain. */
    heat?: { profile: Schema["ProfilePoint"][]; colour: (gasC: number) => string } | null;
    /** Thickness on the wall of each segment, mm; drawn ten times as thick. */
    depositsMm?: number[] | null;
    selected?: number | null;
    onselect?: (index: number) => void;
    /** What a masonry chimney stands on, m above the floor of the lowest storey. */
    footM: number;
  }
  let { flue, layout, view, uid, heat = null, depositsMm = null, selected = null, onselect, footM }: Props = $props();

  const exaggeration = 10;
  // What a deposit leaves free as drawn, m; a line stays open however thick it is.
  const left = (boreM: number, mm: number) => Math.max(boreM * 0.12, boreM - (2 * exaggeration * mm) / 1000);

  const bare = (i: number) => flue.segments?.[i]?.construction === "single-wall-steel";
  const places = $derived((flue.segments ?? []).map((s) => s.surroundings));
  // One short stroke for each piece of the calculation.
  const pieces = $derived(
    heat
      ? heat.profile.slice(1).map((b, i) => {
          const a = heat.profile[i]!;
          const path: Point[] = [
            along(layout, a.lengthM),
            along(layout, (a.lengthM + b.lengthM) / 2),
            along(layout, b.lengthM),
          ];
          return { path, colour: heat.colour((a.gasC + b.gasC) / 2), at: b.lengthM };
        })
      : [],
  );
  // A masonry chimney stands on its foundation, whatever enters it further up.
  const foot = $derived.by(() => {
    const lowest = layout.segments.find((s) => masonry(s));
    return lowest ? { ...end(lowest.path.slice(0, 1)), outerM: lowest.outerM } : null;
  });
  // Fittings along a piece: an elbow at each corner that is drawn first, then evenly.
  const fittings = $derived(
    layout.segments.flatMap((segment, i) => {
      const named = (flue.segments?.[i]?.fittings ?? []).map((f) => (typeof f === "string" ? f : (f.label ?? "")));
      const corners = segment.path.slice(1, -1);
      return named
        .filter((code) => !code.startsWith("butterfly"))
        .map((code, k) => ({
          code,
          at: corners[k] ?? part(segment.path, (k + 0.5) / named.length),
          outer: segment.outerM * view.scale,
          key: `${i}-${k}`,
        }));
    }),
  );
  const bore = $derived(Math.min(...layout.segments.map((s) => s.boreM)));
  const top = $derived(end(layout.segments[layout.segments.length - 1]!.path));
</script>

<defs>
  <pattern id="{uid}-brick" width="12" height="8" patternUnits="userSpaceOnUse">
    <path d="M0 0H12 M0 4H12 M3 0V4 M9 4V8" class="stroke-quiet" stroke-width="0.7" opacity="0.6" />
  </pattern>
</defs>

{#if foot && foot.heightM > footM}
  {@const wide = foot.outerM * view.scale}
  {@const box = {
    x: view.x(foot.acrossM) - wide / 2,
    y: view.y(foot.heightM),
    width: wide,
    height: view.y(footM) - view.y(foot.heightM),
  }}
  <rect {...box} class="fill-base-200 stroke-base-content" stroke-width="1" />
  <rect {...box} fill="url(#{uid}-brick)" />
  <path d="M{box.x - 4} {view.y(footM)} h{wide + 8}" class="stroke-base-content" stroke-width="3" />
{/if}
{#each layout.segments as segment, i (i)}
  {@const d = line(view, segment.path)}
  <path
    {d}
    class="stroke-base-content fill-none"
    stroke-width={segment.outerM * view.scale + 2}
    stroke-linejoin="round"
  />
  <path
    {d}
    class="fill-none {bare(i) ? 'stroke-quiet' : masonry(segment) ? 'stroke-base-200' : 'stroke-base-300'}"
    stroke-width={segment.outerM * view.scale}
    stroke-linejoin="round"
  />
  {#if masonry(segment)}
    <path {d} stroke="url(#{uid}-brick)" class="fill-none" stroke-width={segment.outerM * view.scale} />
  {/if}
  {#if !bare(i)}
    <path
      {d}
      class="stroke-base-content fill-none"
      stroke-width={segment.boreM * view.scale + 1.6}
      stroke-linejoin="round"
    />
    <path {d} class="stroke-base-100 fill-none" stroke-width={segment.boreM * view.scale} stroke-linejoin="round" />
  {/if}
{/each}

{#each pieces as piece (piece.at)}
  <path
    d={line(view, piece.path)}
    stroke={piece.colour}
    class="fill-none"
    stroke-width={bore * view.scale * 0.8}
    stroke-linejoin="round"
  />
{/each}

{#if depositsMm}
  {#each layout.segments as segment, i (i)}
    {@const mm = depositsMm[i] ?? 0}
    {@const d = line(view, segment.path)}
    <path {d} class="stroke-base-content fill-none" stroke-width={segment.boreM * view.scale} />
    <path
      {d}
      class="stroke-base-100 fill-none transition-all duration-150"
      stroke-width={left(segment.boreM, mm) * view.scale}
    />
  {/each}
{/if}

{#each layout.segments as segment, i (i)}
  {#if segment.plate}
    {@const p = middle(segment.path)}
    <path
      d="M{view.x(p.acrossM) - (segment.boreM * view.scale) / 2} {view.y(p.heightM) + 3} l{segment.boreM *
        view.scale} -6"
      class="stroke-base-100"
      stroke-width="2.5"
    />
  {/if}
  {#if i > 0 && places[i] !== places[i - 1]}
    {@const p = segment.path[0]!}
    <path
      d="M{view.x(p.acrossM) - (segment.outerM * view.scale) / 2} {view.y(p.heightM)} h{segment.outerM * view.scale}"
      class="stroke-base-content"
      stroke-width="1.2"
    />
  {/if}
  {#if onselect}
    <path
      d={line(view, segment.path)}
      class="fill-none cursor-pointer {selected === i ? 'stroke-base-content' : 'stroke-transparent'}"
      stroke-width={Math.max(22, segment.outerM * view.scale + 8)}
      stroke-linejoin="round"
      opacity="0.35"
      role="presentation"
      onpointerdown={() => onselect(i)}
    />
  {/if}
{/each}

{#each fittings as fitting (fitting.key)}
  <g
    transform="translate({view.x(fitting.at.acrossM)} {view.y(fitting.at.heightM)})"
    data-fitting={fitting.code}
    class="stroke-base-content fill-base-100"
    stroke-width="1.6"
  >
    {#if fitting.code.startsWith("tee")}
      <path d="M{fitting.outer / 2} -4 h7 v8 h-7" />
    {:else if fitting.code.startsWith("elbow")}
      <circle r={Math.max(4, fitting.outer * 0.42)} />
      <path
        d="M{-Math.max(4, fitting.outer * 0.42)} 0 A{Math.max(4, fitting.outer * 0.42)} {Math.max(
          4,
          fitting.outer * 0.42,
        )} 0 0 1 0 {-Math.max(4, fitting.outer * 0.42)} L0 0 Z"
        class="fill-base-content"
      />
    {:else}
      <path d="M{-fitting.outer / 2 - 2} -2 h{fitting.outer + 4} v4 h{-fitting.outer - 4} Z" />
    {/if}
  </g>
{/each}

{#if flue.cap && flue.cap !== "open"}
  {@const half = (layout.segments[layout.segments.length - 1]!.outerM / 2) * view.scale}
  <g transform="translate({view.x(top.acrossM)} {view.y(top.heightM)})">
    <path
      d="M{-half} 0 V-8 M{half} 0 V-8"
      class="stroke-base-content"
      stroke-width="1.5"
      stroke-dasharray={flue.screen ? "2 2" : "none"}
    />
    {#if flue.cap === "cowl"}
      <path
        d="M{-half - 4} -8 H{half + 4} V-14 A{half + 4} {half + 4} 0 0 0 {-half - 4} -14 Z"
        class="fill-base-content"
      />
    {:else}
      <path d="M{-half - 7} -8 L0 -19 L{half + 7} -8 Z" class="fill-base-content" />
    {/if}
  </g>
{/if}
