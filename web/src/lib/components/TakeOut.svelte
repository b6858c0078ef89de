<script lang="ts">
  /** The button that takes a row out of a list. */
  let { label, onclick }: { label: string; onclick: () => void } = $props();
</script>

<button type="button" class="btn btn-ghost min-h-11" aria-label={label} {onclick}>×</button>
