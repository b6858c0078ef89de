<script lang="ts">
  import type { Schema } from "../api/client";
  let { assumed }: { assumed: Schema["Assumed"][] } = $props();

  const marks: Record<Schema["Mark"], string> = {
    published: "published",
    "from-memory": "published, from memory",
    "common-practice": "common practice",
    assumption: "assumption",
  };
</script>

<details class="text-sm">
  <summary class="text-quiet cursor-pointer py-1">What was assumed ({assumed.length})</summary>
  <ul class="space-y-1">
    {#each assumed as item (item.field)}
      <li>
        <span class="computed">{item.field} = {String(item.value)}</span>
        <span class="text-quiet">{marks[item.mark]}: {item.reason}</span>
      </li>
    {/each}
  </ul>
</details>
