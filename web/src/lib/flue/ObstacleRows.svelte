<script lang="ts">
  import NumberField from "../components/NumberField.svelte";
  import type { FlueEditor } from "./editor.svelte";

  let { editor, errors }: { editor: FlueEditor; errors: Record<string, string[]> } = $props();

  const fields = [
    { field: "acrossM", label: "From the left wall" },
    { field: "widthM", label: "Width" },
    { field: "topM", label: "Height" },
  ] as const;
</script>

<div class="w-56">
  <NumberField
    id="stoveXM"
    label="Stove from the left wall"
    quantity="length"
    value={editor.board.stoveXM}
    errors={errors.stoveXM ?? []}
    onchange={(m) => m !== null && editor.change("stoveXM", (b) => (b.stoveXM = m))}
  />
</div>
{#each editor.board.obstacles as obstacle, i (i)}
  <div
    class="border-base-300 grid grid-cols-[1fr_1fr_1fr_1fr_auto] items-start gap-x-2 border-t py-1 max-sm:grid-cols-2"
  >
    <label class="block min-w-0">
      <span class="text-quiet text-sm">What stands there</span>
      <input
        class="input w-full"
        maxlength="60"
        value={obstacle.name}
        oninput={(e) => {
          const name = e.currentTarget.value;
          editor.change(`name.${i}`, (b) => (b.obstacles[i]!.name = name));
        }}
      />
      <span class="text-error text-sm">{(errors[`obstacles[${i}].name`] ?? []).join(" ")}</span>
    </label>
    {#each fields as f (f.field)}
      <NumberField
        id="{f.field}-{i}"
        label={f.label}
        quantity="length"
        value={obstacle[f.field]}
        errors={errors[`obstacles[${i}].${f.field}`] ?? []}
        onchange={(m) => m !== null && editor.change(`${f.field}.${i}`, (b) => (b.obstacles[i]![f.field] = m))}
      />
    {/each}
    <button
      type="button"
      class="btn btn-ghost mt-5"
      aria-label="Take away {obstacle.name}"
      onclick={() => editor.change("", (b) => b.obstacles.splice(i, 1))}>×</button
    >
  </div>
{/each}
<button
  type="button"
  class="btn btn-sm mt-2"
  onclick={() => editor.change("", (b) => b.obstacles.push({ name: "tree", acrossM: -2, widthM: 2, topM: 5 }))}
  >Something stands near</button
>
