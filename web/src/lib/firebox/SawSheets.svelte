<script lang="ts">
  import type { Schema } from "../api/client";
  import { tables } from "../tables.svelte";

  /** Every brick that is cut on a sheet of its own, in its true size: laid on the brick, it shows where to saw. */
  let {
    saw,
    widthMm,
    lengthMm,
    onclose,
  }: { saw: Schema["SawnBrick"][]; widthMm: number; lengthMm: number; onclose: () => void } = $props();

  let dialog = $state<HTMLDialogElement>();
  $effect(() => dialog?.showModal());
  const mm = (value: number) => tables.number(value / 1000, "bore");
</script>

<dialog
  bind:this={dialog}
  class="saw-sheets fixed inset-0 m-0 h-full max-h-none w-full max-w-none overflow-auto bg-white p-6 text-black print:static print:h-auto print:overflow-visible print:p-0"
  aria-label="Sheets for the saw"
  {onclose}
>
  <div class="no-print mb-4 flex flex-wrap items-center gap-2">
    <button type="button" class="btn btn-primary min-h-11" onclick={() => window.print()}>Print</button>
    <button type="button" class="btn min-h-11" onclick={() => dialog?.close()}>Close</button>
    <p>Print at 100 %, then measure the bar: it is 50 mm long.</p>
  </div>
  {#each saw as brick (brick.brick)}
    <article class="mb-6 break-after-page">
      <h2 class="text-lg">Brick {brick.brick + 1}</h2>
      <div class="flex gap-4 max-sm:flex-wrap print:flex-nowrap">
        <svg
          width="{widthMm + 2}mm"
          height="{lengthMm + 2}mm"
          viewBox="-1 -1 {widthMm + 2} {lengthMm + 2}"
          class="shrink-0"
          role="img"
          aria-label="Brick {brick.brick + 1}, {brick.pieces.length} pieces, {brick.cuts.length} cuts"
        >
          <rect width={widthMm} height={lengthMm} fill="#e5e0d5" stroke="black" stroke-width="0.4" />
          {#each brick.pieces as piece, i (i)}
            <rect
              x={piece.xMm}
              y={piece.yMm}
              width={piece.widthMm}
              height={piece.heightMm}
              fill="white"
              stroke="black"
              stroke-width="0.3"
            />
            {@const upright = piece.heightMm > piece.widthMm * 1.5}
            {@const [cx, cy] = [piece.xMm + piece.widthMm / 2, piece.yMm + piece.heightMm / 2]}
            <text
              x={cx}
              y={cy}
              font-size="5"
              text-anchor="middle"
              dominant-baseline="middle"
              transform={upright ? `rotate(-90 ${cx} ${cy})` : undefined}
              >{mm(upright ? piece.heightMm : piece.widthMm)} × {mm(upright ? piece.widthMm : piece.heightMm)}
              {piece.panel}</text
            >
          {/each}
          {#each brick.cuts as cut, i (i)}
            <path
              d="M{cut.xMm} {cut.yMm} {cut.upright ? 'v' : 'h'}{cut.longMm}"
              stroke="#b3261e"
              stroke-width="0.6"
              stroke-dasharray="3 1.5"
            />
            {@const at = cut.upright ? [cut.xMm + 1, cut.yMm + 6] : [cut.xMm + 2, cut.yMm - 1.5]}
            <text x={at[0]} y={at[1]} font-size="5" fill="#b3261e">{i + 1}</text>
          {/each}
        </svg>
        <div class="text-sm">
          <ol class="list-decimal pl-5">
            {#each brick.cuts as cut, i (i)}
              <li>
                {cut.upright ? "from top to bottom" : "straight across"},
                {mm(cut.upright ? cut.xMm : cut.yMm)} from the {cut.upright ? "left" : "top"}
              </li>
            {/each}
          </ol>
          <p class="mt-2">The blade runs on the far side of each line.</p>
          <svg width="52mm" height="8mm" viewBox="-1 0 52 8" class="mt-4" role="img" aria-label="A bar of 50 mm">
            <path d="M0 1 v4 M0 3 h50 M50 1 v4" stroke="black" stroke-width="0.4" fill="none" />
            <text x="25" y="7.5" font-size="4" text-anchor="middle">50 mm</text>
          </svg>
        </div>
      </div>
    </article>
  {/each}
</dialog>

<style>
  @media print {
    :global(body:has(.saw-sheets) *:not(:has(.saw-sheets)):not(.saw-sheets):not(.saw-sheets *)) {
      display: none;
    }
  }
</style>
