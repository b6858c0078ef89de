<script lang="ts">
  import { tables } from "../tables.svelte";
  import type { FlueEditor, Segment } from "./editor.svelte";
  import SegmentFields from "./SegmentFields.svelte";

  interface Props {
    editor: FlueEditor;
    errors: Record<string, string[]>;
    mayWrite: boolean;
    onselect: (index: number) => void;
  }
  let { editor, errors, mayWrite, onselect }: Props = $props();

  const size = (s: Segment) =>
    s.shape?.kind === "rectangular"
      ? `${tables.number(s.shape.widthM ?? 0, "bore")} × ${tables.show(s.shape.depthM ?? 0, "bore")}`
      : tables.show(s.shape?.diameterM ?? 0, "bore");
  const own = (i: number) =>
    Object.entries(errors)
      .filter(([field]) => field.startsWith(`flue.segments[${i}]`))
      .flatMap(([, said]) => said);
  const whole = $derived(
    Object.entries(errors)
      .filter(([field]) => !field.startsWith("flue.segments[") && !field.startsWith("obstacles["))
      .flatMap(([, said]) => said),
  );
  // As it is drawn: the top stands at the top.
  const fromTheTop = $derived(editor.board.segments.map((segment, i) => ({ segment, i })).reverse());

  function set(change: Partial<typeof editor.board>) {
    editor.change("", (board) => Object.assign(board, change));
  }
</script>

<section aria-labelledby="chain">
  <h2 id="chain" class="text-lg">From the top to the collar</h2>
  <p class="flex flex-wrap items-center gap-2 py-1">
    <label class="text-quiet text-sm" for="cap">Top</label>
    <select
      id="cap"
      class="select select-sm w-auto"
      value={editor.board.cap}
      disabled={!mayWrite}
      onchange={(e) => set({ cap: e.currentTarget.value })}
    >
      {#each tables.all?.caps ?? [] as c (c.code)}<option value={c.code}>{c.name}</option>{/each}
    </select>
    <label class="flex items-center gap-2 text-sm"
      ><input
        type="checkbox"
        class="checkbox checkbox-sm"
        checked={editor.board.screen}
        disabled={!mayWrite}
        onchange={(e) => set({ screen: e.currentTarget.checked })}
      /> screen</label
    >
  </p>
  <ol class="border-base-300 border-l-2">
    {#each fromTheTop as { segment, i } (i)}
      <li class="border-base-300 border-b {editor.selected === i ? 'border-base-content -ml-0.5 border-l-4' : ''}">
        <button
          type="button"
          data-segment={i}
          aria-expanded={editor.selected === i}
          class="flex w-full cursor-pointer flex-wrap gap-x-3 px-3 py-2 text-left {editor.selected === i
            ? 'font-semibold'
            : ''}"
          onclick={() => onselect(i)}
        >
          <span class="min-w-28">{segment.label}</span>
          <span class="text-quiet grow font-normal"
            >{tables.constructionName(segment.construction)}, {segment.surroundings}</span
          >
          <span class="measured">{size(segment)}</span>
          <span class="measured">{tables.show(segment.riseM ?? 0, "length")}</span>
        </button>
        {#if own(i).length && editor.selected !== i}<p class="text-error px-3 pb-2 text-sm">{own(i).join(" ")}</p>{/if}
        {#if editor.selected === i && mayWrite}
          <div class="px-3 pb-3"><SegmentFields {editor} {segment} {errors} /></div>
        {/if}
      </li>
    {/each}
  </ol>
  {#each whole as sentence, n (n)}<p class="text-error mt-1">{sentence}</p>{/each}
</section>
