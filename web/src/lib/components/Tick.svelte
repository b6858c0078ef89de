<script lang="ts">
  /** A box to tick, with its words beside it. */
  interface Props {
    label: string;
    checked: boolean;
    disabled?: boolean;
    onchange: (checked: boolean) => void;
  }
  let { label, checked, disabled = false, onchange }: Props = $props();
</script>

<label class="flex min-h-11 items-center gap-2">
  <input type="checkbox" class="checkbox" {checked} {disabled} onchange={(e) => onchange(e.currentTarget.checked)} />
  {label}
</label>
