<script lang="ts" module>
  export const layers = [
    { code: "condition", name: "Condition" },
    { code: "pull", name: "Pull" },
    { code: "heat", name: "Heat" },
    { code: "deposits", name: "Deposits" },
  ] as const;
  export type Layer = (typeof layers)[number]["code"];
</script>

<script lang="ts">
  import { scaleLinear } from "d3-scale";
  import type { Snippet } from "svelte";
  import type { Schema } from "../api/client";
  import ConditionMark from "../components/ConditionMark.svelte";
  import { settings } from "../settings.svelte";
  import { tables } from "../tables.svelte";
  import FlueDrawing from "./FlueDrawing.svelte";
  import {
    along,
    bounds,
    end,
    inColumn,
    middle,
    view as fit,
    type Layout,
    type Outline,
    type Point,
    type View,
  } from "./geometry";
  import HeatCurve from "./HeatCurve.svelte";
  import HouseDrawing from "./HouseDrawing.svelte";
  import PullCurve from "./PullCurve.svelte";
  import StoveDrawing from "./StoveDrawing.svelte";
  import TopRule from "./TopRule.svelte";

  interface Props {
    stove: Schema["Stove"];
    house: Schema["House"];
    outline: Outline;
    flue: Schema["FlueEntry"];
    layout: Layout;
    layer: Layer;
    /** Condition of a part, or null. */
    conditionOf?: (part: string) => string | null;
    onpart?: (part: string) => void;
    /** Part that is lit up. */
    lit?: string;
    answer?: Schema["DraftAnswer"] | null;
    readingPa?: number | null;
    /** Thickness on the wall of each segment, mm; null where none was recorded. */
    depositsMm?: number[] | null;
    /** Whether a fire is allowed. */
    fire?: boolean;
    width?: number;
    height?: number;
    /** For the editor: the segment that is selected, and what lies on top of the drawing. */
    selected?: number | null;
    onselect?: (index: number) => void;
    overlay?: Snippet<[View]>;
    /** What the overlay draws beyond house and flue: it belongs in the picture. */
    more?: Point[];
    svg?: SVGSVGElement;
  }
  let {
    stove,
    house,
    outline,
    flue,
    layout,
    layer,
    conditionOf = () => null,
    onpart,
    lit = "",
    answer = null,
    readingPa = null,
    depositsMm = null,
    fire = true,
    width = 480,
    height = 640,
    selected = null,
    onselect,
    overlay,
    more = [],
    svg = $bindable(),
  }: Props = $props();

  // Two drawings may stand in one page, each with patterns of its own.
  const uid = $props.id();
  const withCurve = $derived(layer === "pull" || layer === "heat");
  // Beside the house stand a curve, or the names of the marks.
  const beside = $derived(withCurve ? 108 : layer === "condition" ? 138 : 12);
  const shown = $derived(bounds(outline, layout, beside > 12, more));
  const view = $derived(fit(shown, width, height, { right: beside, head: withCurve ? 26 : 8, ground: 52 }));
  const collar = $derived(layout.segments[0]!.path[0]!);
  const top = $derived(end(layout.segments[layout.segments.length - 1]!.path));
  const heightY = (heightM: number) => view.y(collar.heightM + heightM);

  // From cold to hot as the gas is: blue-grey, ember, pale fire.
  const colour = scaleLinear<string>([20, 120, 260, 420], ["#3d6079", "#7d6a5c", "#c84b16", "#f3b65a"]).clamp(true);

  // The marks stand in a column of their own, one below the other, each with a line to its part: nothing runs into
  // roof or ground however many there are.
  const marks = $derived.by(() => {
    const [connector, ...rest] = layout.segments;
    const rise = (s: Schema["LaidSegment"]) => end(s.path).heightM - s.path[0]!.heightM;
    const longest = [...rest].sort((a, b) => rise(b) - rise(a))[0];
    const along: { part: string; at: Point }[] = [
      { part: "cap", at: top },
      ...(longest ? [{ part: "flue", at: middle(longest.path) }] : []),
      { part: "connector", at: middle(connector!.path.slice(0, 2)) },
    ];
    const ofTheStove = (tables.all?.marks ?? [])
      .map((m) => m.code)
      .filter((part) => (conditionOf(part) || part === lit) && !along.some((a) => a.part === part))
      .map((part) => ({ part, at: { acrossM: collar.acrossM, heightM: collar.heightM - stove.collarHeightM / 2 } }));
    const [first, last] = [14, view.height - 52 - 10];
    const all = [...along, ...ofTheStove].sort((a, b) => b.at.heightM - a.at.heightM);
    const ys = inColumn(
      all.map((m) => view.y(m.at.heightM)),
      first,
      last,
    );
    return all.map((mark, i) => ({ ...mark, y: ys[i]! }));
  });

  const bar = $derived(settings.system === "us" ? { m: 0.9144, label: "3 ft" } : { m: 1, label: "1 m" });
  const place = $derived(`${house.street}, ${house.place}`);
  const crossing = $derived(answer?.profile?.find((p) => p.wallC < answer.dewPointC));
</script>

<figure class="m-0">
  <svg
    bind:this={svg}
    viewBox="0 0 {width} {view.height}"
    class="w-full select-none"
    role="group"
    aria-label="Elevation of {place}, true to scale"
  >
    <HouseDrawing
      {house}
      {outline}
      {shown}
      {view}
      {uid}
      stoveM={collar.acrossM}
      room={width - (beside > 12 ? beside : 0)}
    />
    <FlueDrawing
      {flue}
      {layout}
      {view}
      {uid}
      heat={layer === "heat" && answer?.profile ? { profile: answer.profile, colour } : null}
      depositsMm={layer === "deposits" ? (depositsMm ?? []) : null}
      {selected}
      {onselect}
      footM={layout.segments.some((s) => s.path[0]!.acrossM < 0 || s.path[0]!.acrossM > outline.widthM)
        ? outline.groundM
        : 0}
    />
    <TopRule {layout} {view} />
    <StoveDrawing {stove} acrossM={collar.acrossM} floorM={collar.heightM - stove.collarHeightM} {view} {fire} />

    {#if layer === "pull" && answer?.profile}
      <PullCurve
        {answer}
        {readingPa}
        left={width - beside + 14}
        width={beside - 34}
        yOf={heightY}
        from={view.x(collar.acrossM) + (layout.segments[0]!.outerM * view.scale) / 2}
      />
    {:else if layer === "heat" && answer?.profile}
      <HeatCurve
        {answer}
        left={width - beside + 14}
        width={beside - 34}
        yOf={heightY}
        fromAt={(lengthM) => view.x(along(layout, lengthM).acrossM)}
      />
    {/if}

    {#if layer === "condition"}
      {#each marks as mark (mark.part)}
        {@const condition = conditionOf(mark.part)}
        {@const x = width - beside + 22}
        <path
          d="M{view.x(mark.at.acrossM)} {view.y(mark.at.heightM)} L{x - 18} {mark.y} H{x - 10}"
          class="stroke-base-content fill-none"
          stroke-width="1"
          opacity="0.55"
        />
        <circle cx={view.x(mark.at.acrossM)} cy={view.y(mark.at.heightM)} r="2.5" class="fill-base-content" />
        <!-- svelte-ignore a11y_no_noninteractive_tabindex -->
        <g
          transform="translate({x} {mark.y})"
          role={onpart ? "button" : "img"}
          tabindex={onpart ? 0 : undefined}
          aria-label="{tables.partName(mark.part)}: {condition ?? 'not marked'}"
          class={onpart ? "cursor-pointer" : ""}
          onclick={() => onpart?.(mark.part)}
          onkeydown={(e) => e.key === "Enter" && onpart?.(mark.part)}
        >
          <rect
            x="-12"
            y="-13"
            width={beside - 12}
            height="26"
            class="fill-base-200 {lit === mark.part ? 'stroke-primary' : ''}"
            stroke-width="2.5"
            opacity="0.9"
            rx="4"
          />
          <ConditionMark condition={condition ?? "none"} />
          <text x="13" y="4.5" class="fill-base-content text-[13px] font-semibold">{tables.partName(mark.part)}</text>
        </g>
      {/each}
    {/if}

    {#if layer === "deposits"}
      {#each layout.segments as segment, i (i)}
        {@const p = middle(segment.path)}
        {@const mm = depositsMm?.[i] ?? 0}
        {@const aside = (segment.outerM * view.scale) / 2 + 8}
        {@const atEdge = view.x(p.acrossM) + aside + 60 > width}
        {#if mm > 0}
          <text
            x={view.x(p.acrossM) + (atEdge ? -aside : aside)}
            y={view.y(p.heightM) + 4}
            text-anchor={atEdge ? "end" : "start"}
            class="fill-base-content text-[13px] font-semibold">{tables.show(mm / 1000, "thickness")}</text
          >
        {/if}
      {/each}
      <text x={width - 10} y={view.height - 20} text-anchor="end" class="fill-quiet text-[11px]"
        >{depositsMm ? "deposits drawn ten times as thick" : "no deposit recorded yet"}</text
      >
    {/if}

    {@render overlay?.(view)}

    <g transform="translate(14 {view.height - 24})">
      <path
        d="M0 -4 V4 M{bar.m * view.scale} -4 V4 M0 0 H{bar.m * view.scale}"
        class="stroke-base-content"
        stroke-width="1.5"
      />
      <text x={bar.m * view.scale + 8} y="4" class="fill-quiet text-[11px]">{bar.label}</text>
    </g>
  </svg>
  <figcaption class="sr-only">
    <p>Flue of {place}, from the collar to the cap:</p>
    <ol>
      {#each flue.segments ?? [] as segment, i (i)}
        <li>
          {segment.label}: {tables.constructionName(segment.construction)}, {segment.surroundings}, rises {tables.show(
            segment.riseM ?? 0,
            "length",
          )} in
          {tables.show(segment.lengthM ?? 0, "length")}
        </li>
      {/each}
    </ol>
    <p>
      Top: {flue.cap}{layout.top && layout.top.missingM > 0
        ? `, ${tables.show(layout.top.missingM, "length")} too low${layout.asUsual ? " as usually built, not measured" : ""}`
        : ""}. {answer ? `Expected draft ${tables.range(answer.lowPa, answer.highPa, "draft")}.` : ""}
      {answer
        ? `Gas leaves at ${tables.show(answer.exitGasC, "temperature")}, the wall there at ${tables.show(answer.exitWallC, "temperature")}.`
        : ""}
      {answer && crossing
        ? `The wall falls below the dew point of ${tables.show(answer.dewPointC, "temperature")} ${tables.show(crossing.heightM, "length")} above the collar.`
        : ""}
    </p>
  </figcaption>
</figure>
