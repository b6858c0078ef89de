<script lang="ts">
  import type { Schema } from "../api/client";
  import { day } from "../dates";

  let { due }: { due: Schema["DueTask"][] } = $props();
</script>

<ul>
  {#each due as task, i (i)}
    <li class="border-base-300 flex flex-wrap gap-x-3 border-b py-1.5 {task.kind === 'stop' ? 'text-error' : ''}">
      <span class="computed w-28">{day(task.by)}</span><span class="min-w-60 flex-1">{task.reason}</span>
      <span class="text-quiet text-sm">{day(task.earliest)} to {day(task.latest)}</span>
    </li>
  {:else}
    <li class="text-quiet">Nothing yet: the first signed visit sets the dates.</li>
  {/each}
</ul>
