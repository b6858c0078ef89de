<script lang="ts">
  interface Props {
    /** Strokes of points, across and down in turn, each 0..1 of the pad. */
    strokes: number[][];
    disabled?: boolean;
    onchange: (strokes: number[][]) => void;
  }
  let { strokes, disabled = false, onchange }: Props = $props();

  const width = 480;
  const height = 140;
  let pad = $state<SVGSVGElement>();
  let drawing = $state<number[] | null>(null);
  const shown = $derived(drawing ? [...strokes, drawing] : strokes);

  function at(event: PointerEvent): [number, number] {
    const box = pad!.getBoundingClientRect();
    const place = (value: number) => Math.round(Math.min(1, Math.max(0, value)) * 1000) / 1000;
    return [place((event.clientX - box.left) / box.width), place((event.clientY - box.top) / box.height)];
  }

  function start(event: PointerEvent) {
    if (disabled) return;
    pad!.setPointerCapture(event.pointerId);
    drawing = at(event);
  }

  function go(event: PointerEvent) {
    if (drawing) drawing = [...drawing, ...at(event)];
  }

  function end() {
    if (drawing && drawing.length > 2) onchange([...strokes, drawing]);
    drawing = null;
  }

  const path = (stroke: number[]) =>
    stroke.reduce(
      (d, value, i) =>
        i % 2 ? d : `${d}${i ? "L" : "M"}${(value * width).toFixed(1)} ${(stroke[i + 1]! * height).toFixed(1)}`,
      "",
    );
</script>

<p class="text-quiet mb-1 text-sm" id="signature-label">Signature</p>
<svg
  bind:this={pad}
  viewBox="0 0 {width} {height}"
  role="img"
  aria-labelledby="signature-label"
  data-signature
  class="border-base-300 bg-base-100 w-full max-w-xl touch-none rounded-lg border"
  onpointerdown={start}
  onpointermove={go}
  onpointerup={end}
  onpointercancel={end}
>
  <path d="M20 {height - 30} H{width - 20}" class="stroke-base-300" />
  {#each shown as stroke, i (i)}<path d={path(stroke)} class="stroke-base-content fill-none" stroke-width="2" />{/each}
</svg>
{#if strokes.length && !disabled}
  <button type="button" class="btn btn-sm mt-2 min-h-11" onclick={() => onchange([])}>Sign again</button>
{/if}
