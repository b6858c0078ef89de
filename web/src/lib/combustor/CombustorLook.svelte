<script lang="ts">
  import type { Schema } from "../api/client";
  import Choices from "../components/Choices.svelte";
  import NumberField from "../components/NumberField.svelte";
  import Signs from "../components/Signs.svelte";
  import LightPhoto from "./LightPhoto.svelte";
  import { tables } from "../tables.svelte";
  import Decided from "../visits/Decided.svelte";
  import Photos from "../visits/Photos.svelte";
  import Reckoning from "../visits/Reckoning.svelte";
  import type { Step, VisitState } from "../visits/visit.svelte";

  let { visit, step }: { visit: VisitState; step: Step } = $props();

  type Check = Schema["CombustorCheck"];
  const station = $derived(visit.station<Check, Schema["CombustorCheckAnswer"]>(step.code, "combustor")!);
  const check = $derived(station.entry);
  const answer = $derived(station.answer);
  const { errors } = $derived(station);
  const set = (change: Partial<Check>) => station.set(change);
  $effect(() => station.reckon(undefined, true));

  // The newest photo is the one against the lamp.
  const lit = $derived(visit.doc.photos.findLast((p) => p.station === "combustor"));
  let byPhoto = $state(false);

  type Brush = "dark" | "broken";
  let brush = $state<Brush>("dark");
  let face = $state<SVGSVGElement>();
  const across = $derived(answer?.across ?? 12);
  const down = $derived(answer?.down ?? 6);

  // A stroke in the making: kept once the finger is lifted.
  let stroke = $state<{ paints: boolean; cells: number[] } | null>(null);
  const painted = (of: Brush) => (stroke && of === brush ? stroke.cells : (check[of] ?? []));
  function cellAt(event: PointerEvent): number | null {
    const box = face!.getBoundingClientRect();
    const x = Math.floor((((event.clientX - box.left) / box.width) * (across * 20 + 8) - 4) / 20);
    const y = Math.floor((((event.clientY - box.top) / box.height) * (down * 20 + 8) - 4) / 20);
    return x < 0 || y < 0 || x >= across || y >= down ? null : y * across + x;
  }
  function over(cell: number) {
    const { paints, cells } = stroke!;
    if (cells.includes(cell) !== paints)
      stroke = { paints, cells: paints ? [...cells, cell] : cells.filter((c) => c !== cell) };
  }
  function begin(event: PointerEvent) {
    const cell = cellAt(event);
    if (cell === null || !visit.writable) return;
    const cells = check[brush] ?? [];
    stroke = { paints: !cells.includes(cell), cells };
    over(cell);
    face!.setPointerCapture(event.pointerId);
  }
  function draw(event: PointerEvent) {
    const cell = stroke && cellAt(event);
    if (cell !== null) over(cell);
  }
  function end() {
    if (!stroke) return;
    set({ dark: check.dark ?? [], [brush]: [...stroke.cells].sort((a, b) => a - b) });
    stroke = null;
  }
  function key(event: KeyboardEvent, cell: number) {
    if ((event.key !== " " && event.key !== "Enter") || !visit.writable) return;
    event.preventDefault();
    const cells = check[brush] ?? [];
    set({ dark: check.dark ?? [], [brush]: cells.includes(cell) ? cells.filter((c) => c !== cell) : [...cells, cell] });
  }
</script>

<section aria-labelledby="combustor">
  <h3 id="combustor" class="sr-only">Combustor</h3>
  <div class="flex flex-wrap items-center gap-3">
    <Choices
      label="Made of"
      options={tables.words("combustorKind")}
      value={check.kind ?? null}
      disabled={!visit.writable}
      onchange={(kind) => set({ kind: kind as Check["kind"] })}
    />
    <Choices
      label="Paint"
      options={[
        { code: "dark", name: "Dark" },
        { code: "broken", name: "Broken" },
      ]}
      value={brush}
      disabled={!visit.writable}
      onchange={(code) => (brush = code)}
    />
    {#if check.dark == null}
      <button type="button" class="btn min-h-11" disabled={!visit.writable} onclick={() => set({ dark: [] })}
        >All light</button
      >
    {/if}
  </div>
  <p class="text-quiet mt-2 text-sm">
    Held to a lamp: draw over the cells that stay dark, or are broken. A second stroke wipes them.
  </p>
  <!-- svelte-ignore a11y_no_static_element_interactions -->
  <svg
    bind:this={face}
    viewBox="0 0 {across * 20 + 8} {down * 20 + 8}"
    class="bg-base-100 mt-1 w-full max-w-xl touch-none"
    onpointerdown={begin}
    onpointermove={draw}
    onpointerup={end}
    onpointercancel={end}
  >
    <rect
      x="1"
      y="1"
      width={across * 20 + 6}
      height={down * 20 + 6}
      rx="4"
      class="stroke-base-content fill-none"
      stroke-width="2"
    />
    {#each { length: across * down }, cell (cell)}
      {@const dark = painted("dark").includes(cell)}
      {@const broken = painted("broken").includes(cell)}
      <rect
        role="checkbox"
        tabindex={visit.writable ? 0 : -1}
        aria-checked={brush === "dark" ? dark : broken}
        aria-label="Row {Math.floor(cell / across) + 1}, cell {(cell % across) + 1}: {broken
          ? 'broken'
          : dark
            ? 'dark'
            : 'light'}"
        x={4 + (cell % across) * 20 + 1}
        y={4 + Math.floor(cell / across) * 20 + 1}
        width="18"
        height="18"
        class="cursor-pointer {dark ? 'fill-[#1d1a17]' : 'fill-[#ead49a]'} {broken
          ? 'stroke-error'
          : 'stroke-base-300'}"
        stroke-width={broken ? 3 : 1}
        onkeydown={(e) => key(e, cell)}
      />
    {/each}
  </svg>
  {#each [...errors("dark"), ...errors("broken")] as sentence, n (n)}<p class="text-error text-sm">
      {sentence}
    </p>{/each}
  <div class="mt-3 grid grid-cols-2 gap-x-4 gap-y-4 max-sm:grid-cols-1">
    <NumberField
      id="combustor-coatingShare"
      label="Of an open cell lost to a coating"
      quantity="share"
      value={check.coatingShare ?? null}
      errors={errors("coatingShare")}
      disabled={!visit.writable}
      onchange={(coatingShare) => set({ coatingShare })}
    />
    <NumberField
      id="combustor-hours"
      label="Hours of use, where they are known"
      quantity="count"
      value={check.hours ?? null}
      last={answer?.life?.hours ?? null}
      lastWord="by the wood"
      lastText="not known"
      errors={errors("hours")}
      disabled={!visit.writable}
      onchange={(hours) => set({ hours })}
    />
    <label class="text-quiet text-sm"
      >Fitted on
      <input
        type="date"
        class="input flex min-h-11 w-44"
        disabled={!visit.writable}
        value={check.fittedOn ?? ""}
        onchange={(e) => set({ fittedOn: e.currentTarget.value || null })}
      /></label
    >
  </div>
  {#each errors("fittedOn") as sentence, n (n)}<p class="text-error text-sm">{sentence}</p>{/each}
  <div class="mt-3 space-y-3">
    <Choices
      label="Its colour"
      options={tables.words("combustorColour")}
      value={check.colour ?? null}
      disabled={!visit.writable}
      onchange={(colour) => set({ colour: colour as Check["colour"] })}
    />
    <Signs
      label="What else is seen"
      none="Whole, frame and gasket good"
      words={tables.words("combustorSign")}
      seen={check.signs}
      errors={errors("signs")}
      disabled={!visit.writable}
      onchange={(seen) => set({ signs: seen as Check["signs"] })}
    />
  </div>
  <div class="mt-3 flex flex-wrap items-center gap-3">
    <Photos {visit} step={step.code} station="combustor" part="combustor" />
    {#if lit && visit.writable}
      <button type="button" class="btn min-h-11" aria-expanded={byPhoto} onclick={() => (byPhoto = !byPhoto)}
        >{byPhoto ? "Close the light test" : "Light test by the last photo"}</button
      >
    {/if}
  </div>
  {#if lit && byPhoto}
    {#key lit.id}
      <LightPhoto {visit} photo={lit} reading={check.light ?? null} onchange={(light) => set({ light })} />
    {/key}
  {/if}
  {#if check.light && visit.writable}
    <button type="button" class="btn btn-sm mt-2 min-h-11" onclick={() => set({ light: null })}
      >Leave out the photograph’s share</button
    >
  {/if}
  <Reckoning reckoner={station.reckoner} assumed={answer?.assumed ?? []}>
    {#snippet more()}<Decided {visit} {step} parts={answer?.parts ?? []} />{/snippet}
  </Reckoning>
</section>
