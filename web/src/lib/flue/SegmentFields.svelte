<script lang="ts">
  import Choices from "../components/Choices.svelte";
  import NumberField from "../components/NumberField.svelte";
  import { tables } from "../tables.svelte";
  import type { Fitting, FlueEditor, Segment } from "./editor.svelte";

  interface Props {
    editor: FlueEditor;
    segment: Segment;
    errors: Record<string, string[]>;
  }
  let { editor, segment, errors }: Props = $props();

  const path = $derived(`flue.segments[${editor.selected}].`);
  const at = (field: string) => errors[path + field] ?? [];
  const shape = $derived(segment.shape ?? { kind: "round", diameterM: 0.15 });
  const places = [
    { code: "indoor", name: "Indoor" },
    { code: "attic", name: "Attic" },
    { code: "outdoor", name: "Outdoor" },
  ] as const;
  const shapes = [
    { code: "round", name: "Round" },
    { code: "rectangular", name: "Rectangular" },
  ] as const;
  const sides = [
    { code: "left", name: "← left" },
    { code: "right", name: "right →" },
  ] as const;
  const aside = $derived((segment.lengthM ?? 0) - (segment.riseM ?? 0) > 0.005);

  // A straight piece is as long as it rises: until it goes aside the two move together.
  function rise(riseM: number | null) {
    editor.set("rise", aside || riseM === null ? { riseM } : { riseM, lengthM: riseM });
  }

  function turn(kind: "round" | "rectangular") {
    const size = shape.diameterM ?? shape.widthM ?? 0.15;
    const turned = kind === "round" ? { kind, diameterM: size } : { kind, widthM: size, depthM: size };
    editor.set("shape", { shape: turned });
  }

  const fittings = $derived(segment.fittings ?? []);
  const nameOf = (f: Fitting) =>
    typeof f === "string" ? (tables.all?.fittings.find((t) => t.code === f)?.name ?? f) : (f.label ?? "fitting");
</script>

<div class="grid grid-cols-2 gap-x-4 gap-y-4 max-sm:grid-cols-1">
  <label class="block">
    <span class="text-quiet mb-1 block text-sm">Name</span>
    <input
      class="input w-full"
      maxlength="80"
      value={segment.label ?? ""}
      oninput={(e) => editor.set("label", { label: e.currentTarget.value })}
    />
    <span class="text-error text-sm">{at("label").join(" ")}</span>
  </label>
  <label class="block">
    <span class="text-quiet mb-1 block text-sm">Built of</span>
    <select
      class="select w-full"
      value={segment.construction}
      onchange={(e) => editor.set("construction", { construction: e.currentTarget.value, resistanceM2KW: null })}
    >
      {#each tables.all?.constructions ?? [] as c (c.code)}<option value={c.code}>{c.name}</option>{/each}
    </select>
  </label>
  <NumberField
    id="riseM"
    label="Rise"
    quantity="length"
    value={segment.riseM ?? null}
    errors={at("riseM")}
    onchange={rise}
  />
  <NumberField
    id="lengthM"
    label="Length"
    quantity="length"
    value={segment.lengthM ?? null}
    errors={at("lengthM")}
    onchange={(lengthM) => editor.set("length", { lengthM })}
  />
  <div>
    <p class="text-quiet mb-1 text-sm">Inside</p>
    <Choices
      label="Inside"
      options={shapes}
      value={shape.kind === "rectangular" ? "rectangular" : "round"}
      onchange={turn}
    />
    <p class="text-error text-sm">{at("shape").join(" ")}</p>
  </div>
  {#if shape.kind === "rectangular"}
    <div></div>
    {#each ["widthM", "depthM"] as const as side (side)}
      <NumberField
        id={side}
        label={side === "widthM" ? "Width" : "Depth"}
        quantity="bore"
        value={shape[side] ?? null}
        errors={at(`shape.${side}`)}
        onchange={(size) => editor.set(side, { shape: { ...shape, [side]: size } })}
      />
    {/each}
  {:else}
    <NumberField
      id="diameterM"
      label="Diameter"
      quantity="bore"
      value={shape.diameterM ?? null}
      errors={at("shape.diameterM")}
      onchange={(diameterM) => editor.set("diameter", { shape: { ...shape, diameterM } })}
    />
  {/if}
  <div>
    <p class="text-quiet mb-1 text-sm">Surroundings</p>
    <Choices
      label="Surroundings"
      options={places}
      value={(segment.surroundings ?? "indoor") as "indoor"}
      onchange={(surroundings) => editor.set("surroundings", { surroundings })}
    />
  </div>
  {#if aside}
    <div>
      <p class="text-quiet mb-1 text-sm">Goes aside to the</p>
      <Choices
        label="Goes aside to the"
        options={sides}
        value={segment.toward === "left" ? "left" : "right"}
        onchange={(toward) => editor.set("toward", { toward })}
      />
    </div>
  {/if}
</div>
<div class="mt-2 flex flex-wrap items-center gap-1.5">
  {#each fittings as fitting, i (i)}
    <span class="border-base-300 bg-base-100 flex items-center rounded-lg border pl-2 text-sm"
      >{nameOf(fitting)}<button
        type="button"
        class="min-h-11 min-w-11 cursor-pointer px-2"
        aria-label="Take out {nameOf(fitting)}"
        onclick={() => editor.set("", { fittings: fittings.filter((_, at) => at !== i) })}>×</button
      ></span
    >
  {/each}
  <details>
    <summary class="btn btn-sm min-h-11">+ fitting</summary>
    <div class="flex flex-wrap gap-1.5 py-1">
      {#each tables.all?.fittings ?? [] as f (f.code)}
        <button
          type="button"
          class="btn btn-sm min-h-11"
          onclick={() => editor.set("", { fittings: [...fittings, f.code as Fitting] })}>{f.name}</button
        >
      {/each}
    </div>
  </details>
</div>
