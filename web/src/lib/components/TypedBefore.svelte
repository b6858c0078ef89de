<script lang="ts" generics="T extends object">
  import type { Typed } from "../typed.svelte";
  let { typed, forget = () => typed.forget() }: { typed: Typed<T>; forget?: () => void } = $props();
</script>

{#if typed.before}
  <p role="status" class="border-primary my-2 border-l-4 pl-3">
    Typed before and not kept yet.
    <button type="button" class="link min-h-11" onclick={forget}>Throw it away</button>
  </p>
{/if}
