<script lang="ts">
  import type { Schema } from "../api/client";
  import { day } from "../dates";

  let { whatIfs }: { whatIfs: Schema["SweepWhatIf"][] } = $props();
  const percent = (factor: number) => `${((factor - 1) * 100).toFixed(0).replace("-", "−")} %`;
</script>

{#if whatIfs.length}
  <h3 class="mt-3">What would move the date</h3>
  <!-- On a phone it is moved sideways, by keys too. -->
  <!-- svelte-ignore a11y_no_noninteractive_tabindex -->
  <div class="overflow-x-auto" role="region" aria-label="What would move the date" tabindex="0">
    <table class="table-sm table">
      <thead><tr><th>Change</th><th>Growth</th><th>Next sweep</th><th>Limit, ordinary to bad year</th></tr></thead>
      <tbody>
        {#each whatIfs as w (w.code)}
          <tr>
            <td>{w.name}</td>
            <td class="computed">{percent(w.rateFactor)}</td>
            <td class="computed">{day(w.nextSweep)}</td>
            <td class="computed">{w.p50Date ? day(w.p50Date) : "never"} to {w.p90Date ? day(w.p90Date) : "never"}</td>
          </tr>
        {/each}
      </tbody>
    </table>
  </div>
{/if}
