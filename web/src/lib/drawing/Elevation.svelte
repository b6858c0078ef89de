<script lang="ts">
  import { scaleLinear } from "d3-scale";
  import type { Schema } from "../api/client";
  import ConditionMark from "../components/ConditionMark.svelte";
  import { settings } from "../settings.svelte";
  import { tables } from "../tables.svelte";
  import { draw, middle, type DrawnSegment, type Point } from "./geometry";
  import PullCurve from "./PullCurve.svelte";

  interface Props {
    stove: Schema["Stove"];
    flue: Schema["FlueVersion"];
    skin: "condition" | "pull";
    /** Condition of a part, or null. */
    conditionOf?: (part: string) => string | null;
    onpart?: (part: string) => void;
    answer?: Schema["DraftAnswer"] | null;
    readingPa?: number | null;
    width?: number;
    height?: number;
  }
  let {
    stove,
    flue,
    skin,
    conditionOf = () => null,
    onpart,
    answer = null,
    readingPa = null,
    width = 480,
    height = 640,
  }: Props = $props();

  // Two drawings may stand in one page, each with patterns of its own.
  const uid = $props.id();
  const drawn = $derived(draw(stove, flue));
  const pullWidth = $derived(skin === "pull" ? 108 : 12);
  const ground = 56;
  const scale = $derived(
    Math.min(
      (width - pullWidth - 8) / (drawn.bounds.right - drawn.bounds.left),
      (height - ground - 8) / drawn.bounds.top,
      90,
    ),
  );
  const x = $derived(scaleLinear([drawn.bounds.left, drawn.bounds.left + 1], [6, 6 + scale]));
  const y = $derived(scaleLinear([0, 1], [height - ground, height - ground - scale]));
  const at = (p: Point) => `${x(p.x)} ${y(p.y)}`;
  const line = (path: Point[]) => `M${path.map(at).join(" L")}`;

  const roof = $derived.by(() => {
    const { widthM, eavesM, ridgeM, overhangM } = drawn.house;
    const drop = (overhangM * (ridgeM - eavesM)) / (widthM / 2);
    return line([
      { x: -overhangM, y: eavesM - drop },
      { x: widthM / 2, y: ridgeM },
      { x: widthM + overhangM, y: eavesM - drop },
    ]);
  });
  const inside = $derived.by(() => {
    const { widthM, eavesM, ridgeM } = drawn.house;
    return `${line([
      { x: 0, y: 0 },
      { x: 0, y: eavesM },
      { x: widthM / 2, y: ridgeM },
      { x: widthM, y: eavesM },
      { x: widthM, y: 0 },
    ])} Z`;
  });

  const masonry = (s: DrawnSegment) => s.outerM - s.boreM > 0.2;
  const bare = (s: DrawnSegment) => s.construction === "single-wall-steel";

  // Where the marks of parts sit; parts of the stove itself are stacked beside it.
  const marks = $derived.by(() => {
    const connector = drawn.segments[0]!;
    const rest = drawn.segments.slice(1);
    const longest = [...rest].sort(
      (a, b) => b.path[b.path.length - 1]!.y - b.path[0]!.y - (a.path[a.path.length - 1]!.y - a.path[0]!.y),
    )[0];
    const placed: { part: string; at: Point; dx: number }[] = [
      { part: "cap", at: drawn.top, dx: 22 },
      ...(longest ? [{ part: "flue", at: middle(longest.path), dx: (longest.outerM * scale) / 2 + 14 }] : []),
      { part: "connector", at: middle(connector.path.slice(0, 2)), dx: (connector.outerM * scale) / 2 + 14 },
    ];
    const side = { x: drawn.stove.x + drawn.stove.widthM / 2, y: 0 };
    const own = ["door-rope", "bricks", "baffle", "combustor", "glass", "channels", "intake", "hot-test"].filter((p) =>
      conditionOf(p),
    );
    own.slice(0, 4).forEach((part, i) => {
      placed.push({ part, at: { x: side.x, y: drawn.stove.collarM - (0.08 + (i * 22) / scale) }, dx: 16 });
    });
    return placed.filter((m) => m.part in { cap: 1, flue: 1, connector: 1 } || conditionOf(m.part));
  });

  const bar = $derived(settings.system === "us" ? { m: 0.9144, label: "3 ft" } : { m: 1, label: "1 m" });
  const place = $derived(`${stove.street}, ${stove.place}`);
</script>

<figure class="m-0">
  <svg viewBox="0 0 {width} {height}" class="w-full" role="group" aria-label="Elevation of {place}, true to scale">
    <defs>
      <pattern id="{uid}-hatch" width="8" height="8" patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
        <path d="M0 0V8" class="stroke-quiet" stroke-width="1" opacity="0.45" />
      </pattern>
      <pattern id="{uid}-brick" width="12" height="8" patternUnits="userSpaceOnUse">
        <path d="M0 0H12 M0 4H12 M3 0V4 M9 4V8" class="stroke-quiet" stroke-width="0.7" opacity="0.6" />
      </pattern>
    </defs>

    <rect x="0" y={y(0)} {width} height={ground} fill="var(--soil)" />
    <rect x="0" y={y(0)} {width} height="8" fill="url(#{uid}-hatch)" />
    <path d={inside} class="fill-base-100" />
    {#each drawn.storeys as storey (storey.floorM)}
      <rect
        x={x(0)}
        y={y(storey.ceilingM)}
        width={drawn.house.widthM * scale}
        height={0.2 * scale}
        class="fill-base-300"
      />
      <text x={x(drawn.house.widthM) - 8} y={y(storey.floorM) - 8} text-anchor="end" class="fill-quiet text-[11px]"
        >{storey.name}</text
      >
    {/each}
    <path
      d="M{x(0)} {y(0)} V{y(drawn.house.eavesM)} M{x(drawn.house.widthM)} {y(0)} V{y(drawn.house.eavesM)}"
      class="stroke-base-content"
      stroke-width="2"
    />
    <path d={roof} class="stroke-base-content fill-none" stroke-width="3" stroke-linejoin="round" />
    <path d="M0 {y(0)} H{width}" class="stroke-base-content" stroke-width="2" />

    {#each drawn.segments as segment, i (i)}
      <path
        d={line(segment.path)}
        class="stroke-base-content fill-none"
        stroke-width={segment.outerM * scale + 2}
        stroke-linejoin="round"
      />
      <path
        d={line(segment.path)}
        class="fill-none {bare(segment) ? 'stroke-quiet' : masonry(segment) ? 'stroke-base-200' : 'stroke-base-300'}"
        stroke-width={segment.outerM * scale}
        stroke-linejoin="round"
      />
      {#if !bare(segment)}
        {#if masonry(segment)}
          <path
            d={line(segment.path)}
            stroke="url(#{uid}-brick)"
            class="fill-none"
            stroke-width={segment.outerM * scale}
          />
        {/if}
        <path
          d={line(segment.path)}
          class="stroke-base-content fill-none"
          stroke-width={segment.boreM * scale + 1.6}
          stroke-linejoin="round"
        />
        <path
          d={line(segment.path)}
          class="stroke-base-100 fill-none"
          stroke-width={segment.boreM * scale}
          stroke-linejoin="round"
        />
      {/if}
      {#if segment.plate}
        {@const p = middle(segment.path)}
        <path
          d="M{x(p.x) - (segment.boreM * scale) / 2} {y(p.y) + 3} l{segment.boreM * scale} -6"
          class="stroke-base-100"
          stroke-width="2.5"
        />
      {/if}
      {#if i > 0 && segment.place !== drawn.segments[i - 1]!.place}
        <path
          d="M{x(segment.path[0]!.x) - (segment.outerM * scale) / 2} {y(segment.path[0]!.y)} h{segment.outerM * scale}"
          class="stroke-base-content"
          stroke-width="1.2"
        />
      {/if}
    {/each}

    {#if drawn.cap !== "open"}
      {@const half = (drawn.segments[drawn.segments.length - 1]!.outerM / 2) * scale}
      <g transform="translate({x(drawn.top.x)} {y(drawn.top.y)})">
        <path
          d="M{-half} 0 V-8 M{half} 0 V-8"
          class="stroke-base-content"
          stroke-width="1.5"
          stroke-dasharray={drawn.screen ? "2 2" : "none"}
        />
        <path d="M{-half - 7} -8 L0 -19 L{half + 7} -8 Z" class="fill-base-content" />
      </g>
    {/if}

    <g transform="translate({x(drawn.stove.x)} {y(0)})">
      {#if stove.kind === "masonry-heater"}
        <rect
          x={(-drawn.stove.widthM / 2) * scale}
          y={-(drawn.stove.collarM + 0.5) * scale}
          width={drawn.stove.widthM * scale}
          height={(drawn.stove.collarM + 0.5) * scale}
          class="fill-base-300 stroke-base-content"
          stroke-width="2"
        />
      {:else}
        <rect
          x={(-drawn.stove.widthM / 2) * scale}
          y={-drawn.stove.collarM * scale}
          width={drawn.stove.widthM * scale}
          height={(drawn.stove.collarM - 0.12) * scale}
          rx="2"
          class="fill-base-content stroke-base-100"
        />
        <path
          d="M{-0.25 * scale} {-0.12 * scale} V0 M{0.25 * scale} {-0.12 * scale} V0"
          class="stroke-base-content"
          stroke-width={0.06 * scale}
        />
      {/if}
      <rect
        x={-0.22 * scale}
        y={-drawn.stove.collarM * 0.85 * scale}
        width={0.44 * scale}
        height={drawn.stove.collarM * 0.42 * scale}
        rx="2"
        class="fill-primary"
      />
      <rect x={-0.65 * scale} y="-3" width={1.3 * scale} height="4" class="fill-base-content" />
    </g>

    {#if skin === "pull" && answer?.profile}
      <PullCurve
        {answer}
        {readingPa}
        left={x(drawn.bounds.right) + 14}
        width={pullWidth - 34}
        yOf={(heightM) => y(drawn.stove.collarM + heightM)}
        from={x(drawn.stove.x) + (drawn.segments[0]!.outerM * scale) / 2}
      />
    {/if}

    {#if skin === "condition"}
      {#each marks as mark (mark.part)}
        {@const condition = conditionOf(mark.part)}
        <!-- svelte-ignore a11y_no_noninteractive_tabindex -->
        <g
          transform="translate({x(mark.at.x) + mark.dx} {y(mark.at.y)})"
          role={onpart ? "button" : "img"}
          tabindex={onpart ? 0 : undefined}
          aria-label="{tables.partName(mark.part)}: {condition ?? 'not marked'}"
          class={onpart ? "cursor-pointer" : ""}
          onclick={() => onpart?.(mark.part)}
          onkeydown={(e) => e.key === "Enter" && onpart?.(mark.part)}
        >
          <rect
            x="-12"
            y="-14"
            width={26 + tables.partName(mark.part).length * 7.4}
            height="28"
            class="fill-base-100"
            opacity="0.75"
            rx="4"
          />
          <ConditionMark condition={condition ?? "none"} />
          <text x="13" y="4.5" class="fill-base-content text-[13px] font-semibold">{tables.partName(mark.part)}</text>
        </g>
      {/each}
    {/if}

    <g transform="translate(14 {y(0) + 30})">
      <path d="M0 -4 V4 M{bar.m * scale} -4 V4 M0 0 H{bar.m * scale}" class="stroke-base-content" stroke-width="1.5" />
      <text x={(bar.m * scale) / 2} y="17" text-anchor="middle" class="fill-quiet text-[11px]">{bar.label}</text>
    </g>
  </svg>
  <figcaption class="sr-only">
    <p>Flue of {place}, from the collar to the cap:</p>
    <ol>
      {#each flue.flue.segments ?? [] as segment, i (i)}
        <li>
          {segment.label}: {segment.construction}, {segment.surroundings}, rises {tables.show(
            segment.riseM ?? 0,
            "length",
          )} in
          {tables.show(segment.lengthM ?? 0, "length")}
        </li>
      {/each}
    </ol>
    <p>Top: {flue.flue.cap}. {answer ? `Expected draft ${tables.range(answer.lowPa, answer.highPa, "draft")}.` : ""}</p>
  </figcaption>
</figure>
