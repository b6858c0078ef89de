<script lang="ts">
  /** The one sentence a page says when it cannot be shown. */
  let { sentence }: { sentence: string } = $props();
</script>

{#if sentence}<p role="alert" class="text-error p-6">{sentence}</p>{/if}
