<script lang="ts" module>
  export const sectionLayers = [
    { code: "condition", name: "Condition" },
    { code: "air", name: "Air" },
    { code: "seals", name: "Seals" },
  ] as const;
  export type SectionLayer = (typeof sectionLayers)[number]["code"];
</script>

<script lang="ts">
  import { line as path } from "d3-shape";
  import type { Schema } from "../api/client";
  import Choices from "../components/Choices.svelte";
  import ConditionMark from "../components/ConditionMark.svelte";
  import NumberField from "../components/NumberField.svelte";
  import { settings } from "../settings.svelte";
  import { tables } from "../tables.svelte";
  import { inColumn } from "./geometry";

  interface Props {
    section: Schema["StoveSection"];
    model: string;
    layer: SectionLayer;
    /** Condition of a part, or null. */
    conditionOf?: (part: string) => string | null;
    onpart?: (part: string) => void;
    /** Part that is lit up. */
    lit?: string;
    onseal?: () => void;
    /** Keeps a measure; the sentences say what was refused. */
    onmeasure?: (field: string, m: number | null) => Promise<string[]>;
    width?: number;
    height?: number;
  }
  let {
    section,
    model,
    layer,
    conditionOf = () => null,
    onpart,
    lit = "",
    onseal,
    onmeasure,
    width = 480,
    height = 520,
  }: Props = $props();

  const uid = $props.id();
  const beside = 150;
  const [before, behind, below] = [0.26, 0.3, 0.13];
  const scale = $derived(
    Math.min((width - beside) / (section.widthM + before + behind), (height - 16) / (section.heightM + below)),
  );
  const x = (m: number) => (m + before) * scale + 4;
  const y = (m: number) => 8 + (section.heightM - m) * scale;
  const total = $derived((section.heightM + below) * scale + 16);
  const shape = path<Schema["SectionPoint"]>(
    (p) => x(p.x),
    (p) => y(p.y),
  );
  const outline = (points: Schema["SectionPoint"][]) => `${shape(points)} Z`;
  const centre = (points: Schema["SectionPoint"][]) => ({
    x: points.reduce((sum, p) => sum + p.x, 0) / points.length,
    y: points.reduce((sum, p) => sum + p.y, 0) / points.length,
  });

  const looks: Record<string, string> = {
    iron: "fill-base-content stroke-base-100",
    masonry: "fill-base-300 stroke-base-content",
    brick: "fill-base-300 stroke-base-content",
    glass: "fill-secondary stroke-secondary",
    rope: "fill-primary stroke-primary",
    comb: "stroke-base-content",
    room: "fill-base-100 stroke-base-300",
  };
  const flows: Record<string, string> = {
    room: "stroke-secondary",
    outside: "stroke-success",
    gas: "stroke-primary",
    leak: "stroke-error",
  };

  // How the stove stands: which ways are open.
  let airOpen = $state(true);
  let bypassOpen = $state(false);
  const hasBypass = $derived(section.ways.some((w) => w.bypassOpen != null));
  const ways = $derived(
    section.ways.filter(
      (w) => (w.airOpen == null || w.airOpen === airOpen) && (w.bypassOpen == null || w.bypassOpen === bypassOpen),
    ),
  );

  // One name for a part or seal, at the first piece of it.
  const named = $derived.by(() => {
    const entries =
      layer === "seals"
        ? section.seals.map((seal) => ({
            code: seal.place as string,
            piece: section.pieces.find((p) => p.seal === seal.place),
          }))
        : [...new Set(section.pieces.map((p) => p.part).filter((p) => p != null))].map((part) => ({
            code: part as string,
            piece: section.pieces.find((p) => p.part === part),
          }));
    const all = entries
      .filter((e) => e.piece)
      .map((e) => ({ code: e.code, at: centre(e.piece!.corners) }))
      .sort((a, b) => b.at.y - a.at.y);
    const ys = inColumn(
      all.map((n) => y(n.at.y)),
      16,
      total - 36,
    );
    return all.map((n, i) => ({ ...n, y: ys[i]! }));
  });
  const sealText = (place: string) => {
    const seal = section.seals.find((s) => s.place === place)!;
    const length = seal.fitted?.lengthM ?? seal.needM;
    return [
      seal.fitted?.rope ?? seal.rope ?? "size unknown",
      length ? tables.show(length, "length") : null,
      seal.fitted ? `since ${seal.fitted.fitted.slice(0, 4)}` : null,
    ]
      .filter(Boolean)
      .join(", ");
  };

  let measured = $state<string | null>(null);
  let refused = $state<string[]>([]);
  const typing = $derived(section.measures.find((m) => m.field === measured) ?? null);
  // One after the other: what was typed last is what stays.
  let wanted: { field: string; m: number | null } | null = null;
  let sending = false;
  async function keep(m: number | null) {
    wanted = { field: measured!, m };
    if (sending) return;
    sending = true;
    while (wanted) {
      const next: { field: string; m: number | null } = wanted;
      wanted = null;
      refused = await onmeasure!(next.field, next.m);
    }
    sending = false;
  }
  const bar = $derived(settings.system === "us" ? { m: 0.1524, label: "6 in" } : { m: 0.2, label: "20 cm" });
</script>

<figure class="m-0">
  {#if layer === "air"}
    <div class="mb-1 flex flex-wrap gap-2">
      <Choices
        label="Air control"
        options={[
          { code: "open", name: "Air open" },
          { code: "shut", name: "Air shut" },
        ]}
        value={airOpen ? "open" : "shut"}
        onchange={(at) => (airOpen = at === "open")}
      />
      {#if hasBypass}
        <Choices
          label="Bypass"
          options={[
            { code: "open", name: "Bypass open" },
            { code: "shut", name: "Bypass shut" },
          ]}
          value={bypassOpen ? "open" : "shut"}
          onchange={(at) => (bypassOpen = at === "open")}
        />
      {/if}
    </div>
  {/if}
  <svg
    viewBox="0 0 {width} {total}"
    class="w-full select-none"
    role="group"
    aria-label="{model}, cut open, {section.known ? 'true to scale' : 'in usual proportion until it is measured'}"
  >
    <defs>
      <pattern id="{uid}-comb" width="5" height="5" patternUnits="userSpaceOnUse">
        <path d="M0 0H5V5" class="stroke-base-content fill-none" stroke-width="1" />
      </pattern>
      <pattern id="{uid}-brick" width="14" height="9" patternUnits="userSpaceOnUse">
        <path d="M0 0H14 M4 0V9" class="stroke-quiet fill-none" stroke-width="0.7" />
      </pattern>
      {#each Object.entries(flows) as [flow, stroke] (flow)}
        <marker id="{uid}-{flow}" viewBox="0 0 8 8" refX="6" refY="4" markerWidth="5" markerHeight="5" orient="auto">
          <path d="M0 0L8 4L0 8Z" class={stroke.replace("stroke-", "fill-")} />
        </marker>
      {/each}
    </defs>
    <path d="M0 {y(0)} H{width - beside}" class="stroke-base-content" stroke-width="2" />
    {#each section.pieces as piece (piece.code)}
      <path
        d={outline(piece.corners)}
        class={looks[piece.look]}
        fill={piece.look === "comb" ? `url(#${uid}-comb)` : undefined}
        stroke-width="1"
        stroke-dasharray={section.known || (piece.code !== "body" && piece.code !== "around") ? undefined : "5 4"}
      >
        <title>{piece.name}</title>
      </path>
      {#if piece.look === "masonry" || piece.look === "brick"}
        <path d={outline(piece.corners)} fill="url(#{uid}-brick)" />
      {/if}
    {/each}

    {#if layer === "air"}
      {#each ways as way (way.name)}
        <path
          d={shape(way.way)}
          class="fill-none {flows[way.flow]}"
          stroke-width={way.flow === "gas" ? 3.5 : 2.5}
          stroke-linejoin="round"
          stroke-dasharray={way.flow === "outside" ? "7 3" : undefined}
          marker-end="url(#{uid}-{way.flow})"
        />
      {/each}
      {#each ways as way, i (way.name)}
        <g transform="translate({width - beside + 4} {22 + i * 40})">
          <path d="M0 -4 H18" class={flows[way.flow]} stroke-width="3" />
          <text x="24" y="0" class="fill-base-content text-[12px] font-semibold"
            >{{ room: "Room air", outside: "Outside air", gas: "Gas", leak: "Leak" }[way.flow]}</text
          >
          <text x="0" y="14" class="fill-quiet text-[11px]">{way.name.replace(/^gas /, "")}</text>
          {#if way.kgH != null}
            <text x="70" y="0" class="fill-error text-[13px] font-semibold">{tables.show(way.kgH, "burn-rate")}</text>
          {/if}
        </g>
      {/each}
    {:else}
      {#each named as name (name.code)}
        {@const at = width - beside + 18}
        {@const condition = conditionOf(name.code)}
        {@const press = layer === "seals" ? onseal && (() => onseal()) : onpart && (() => onpart(name.code))}
        {@const words =
          layer === "seals"
            ? (section.seals.find((s) => s.place === name.code)?.name ?? "")
            : tables.partName(name.code)}
        <path
          d="M{x(name.at.x)} {y(name.at.y)} L{at - 16} {name.y} H{at - 9}"
          class="stroke-base-content fill-none"
          stroke-width="1"
          opacity="0.55"
        />
        <circle cx={x(name.at.x)} cy={y(name.at.y)} r="2.5" class="fill-base-content stroke-base-100" />
        <!-- svelte-ignore a11y_no_noninteractive_tabindex -->
        <g
          transform="translate({at} {name.y})"
          role={press ? "button" : "img"}
          tabindex={press ? 0 : undefined}
          aria-label={layer === "seals" ? `${words} ${sealText(name.code)}` : `${words}: ${condition ?? "not marked"}`}
          class={press ? "cursor-pointer" : ""}
          onclick={press}
          onkeydown={(e) => e.key === "Enter" && press?.()}
        >
          <rect
            x="-10"
            y="-13"
            width={beside - 10}
            height="26"
            class="fill-base-200 {lit === name.code ? 'stroke-primary' : ''}"
            stroke-width="2.5"
            opacity="0.9"
            rx="4"
          />
          {#if layer === "seals"}
            <text x="0" y="-1" class="fill-base-content text-[13px] font-semibold">{`${words} `}</text>
            <text x="0" y="11" class="fill-quiet text-[11px]">{sealText(name.code)}</text>
          {:else}
            <ConditionMark condition={condition ?? "none"} />
            <text x="12" y="4.5" class="fill-base-content text-[13px] font-semibold">{words}</text>
          {/if}
        </g>
      {/each}
    {/if}

    {#each section.measures as m (m.field)}
      {@const flat = m.from.y === m.to.y}
      {@const [mx, my] = [(x(m.from.x) + x(m.to.x)) / 2, (y(m.from.y) + y(m.to.y)) / 2]}
      <path
        d="M{x(m.from.x)} {y(m.from.y)} L{x(m.to.x)} {y(m.to.y)}"
        class="stroke-quiet"
        stroke-width="1"
        stroke-dasharray={m.measured ? undefined : "3 3"}
      />
      <!-- svelte-ignore a11y_no_noninteractive_tabindex -->
      <g
        transform="translate({mx} {flat ? my + 14 : my}) {flat ? '' : 'rotate(-90)'}"
        role={onmeasure ? "button" : "img"}
        tabindex={onmeasure ? 0 : undefined}
        aria-label="{m.name}: {tables.show(m.m, 'length')}{m.measured ? '' : ', not measured'}"
        class={onmeasure ? "cursor-pointer" : ""}
        onclick={() => ((measured = m.field), (refused = []))}
        onkeydown={(e) => e.key === "Enter" && ((measured = m.field), (refused = []))}
      >
        <rect x="-28" y="-11" width="56" height="15" class="fill-base-200" opacity={flat ? 0 : 0.8} />
        <text text-anchor="middle" class="text-[11px] {m.measured ? 'fill-base-content font-semibold' : 'fill-quiet'}"
          >{tables.show(m.m, "length")}</text
        >
      </g>
    {/each}
    <g transform="translate({width - beside + 8} {total - 8})">
      <path d="M0 -8 V0 M{bar.m * scale} -8 V0 M0 -4 H{bar.m * scale}" class="stroke-base-content" stroke-width="1.5" />
      <text x={bar.m * scale + 6} y="0" class="fill-quiet text-[11px]">{bar.label}</text>
    </g>
  </svg>
  {#if typing && onmeasure}
    <div class="mt-2 flex items-end gap-2">
      <div class="grow">
        {#key typing.field}
          <NumberField
            id="measure-{typing.field}"
            label="{typing.name}, measured"
            quantity="length"
            value={typing.measured ? typing.m : null}
            last={typing.m}
            lastWord="drawn as"
            errors={refused}
            onchange={(m) => void keep(m)}
          />
        {/key}
      </div>
      <button type="button" class="btn min-h-11" onclick={() => (measured = null)}>Close</button>
    </div>
  {/if}
  <figcaption class="mt-1 text-sm">
    {section.known
      ? "Drawn by its own measures."
      : "In usual proportion, dashed until depth and height are measured."}{onmeasure
      ? " Tap a measure to type it."
      : ""}
    <span class="sr-only">
      {layer === "air"
        ? ways.map((w) => `${w.name}${w.kgH == null ? "" : `, ${tables.show(w.kgH, "burn-rate")}`}`).join("; ")
        : section.pieces.map((p) => p.name).join(", ")}
    </span>
  </figcaption>
</figure>
