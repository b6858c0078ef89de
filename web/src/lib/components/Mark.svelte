<script lang="ts">
  import ConditionMark from "./ConditionMark.svelte";
  let { condition }: { condition: string } = $props();
</script>

<svg viewBox="-9 -9 18 18" class="inline-block size-4 shrink-0 align-[-2px]" aria-hidden="true">
  <ConditionMark {condition} />
</svg>
