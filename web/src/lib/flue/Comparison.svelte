<script lang="ts">
  import type { Schema } from "../api/client";
  import { tables } from "../tables.svelte";

  interface Props {
    before: Schema["DraftAnswer"];
    after: Schema["DraftAnswer"];
  }
  let { before, after }: Props = $props();

  const rows = $derived([
    { name: "Expected draft", of: (a: typeof before) => tables.range(a.lowPa, a.highPa, "draft") },
    { name: "Gas at the top", of: (a: typeof before) => tables.show(a.exitGasC, "temperature") },
    {
      name: "Wall at the top",
      of: (a: typeof before) =>
        `${tables.show(a.exitWallC, "temperature")}, ${a.exitWallC < a.dewPointC ? "wet" : "dry"}`,
    },
    { name: "Needs", of: (a: typeof before) => tables.range(a.need.minPa, a.need.maxPa, "draft") },
  ]);
  const verdict = $derived(
    after.expectedPa < after.need.minPa
      ? "Too weak for this stove."
      : after.expectedPa > after.need.maxPa
        ? "Stronger than this stove may have."
        : "Within what this stove asks for.",
  );
</script>

<table class="table-sm table">
  <thead><tr><th></th><th>As it stands</th><th>On the board</th></tr></thead>
  <tbody>
    {#each rows as row (row.name)}
      <tr>
        <td class="text-quiet">{row.name}</td>
        <td class="computed font-normal!">{row.of(before)}</td>
        <td class="computed">{row.of(after)}</td>
      </tr>
    {/each}
  </tbody>
</table>
<p role="status">{verdict}</p>
