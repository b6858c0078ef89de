<script lang="ts">
  import { prices, type Thing } from "../prices.svelte";
  import { session } from "../session.svelte";
  import NumberField from "./NumberField.svelte";

  let { things }: { things: Thing[] } = $props();
  void prices.load();
</script>

<div class="mt-2 grid grid-cols-4 gap-3 max-sm:grid-cols-2">
  {#each things as thing (thing)}
    <NumberField
      id="price-{thing}"
      label="{prices.name(thing)}, {session.state?.currency}"
      quantity="ratio"
      value={prices.of(thing)}
      compact
      onchange={(price) => prices.set(thing, price)}
    />
  {/each}
</div>
<p class="text-quiet text-sm">
  {prices.desk
    ? "The firm’s prices; changed here they change for everybody."
    : "The firm’s prices; what you change here is tried, not kept."}
</p>
{#each prices.refused as sentence, n (n)}<p role="alert" class="text-error text-sm">{sentence}</p>{/each}
