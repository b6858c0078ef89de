<script lang="ts">
  import NumberField from "../components/NumberField.svelte";
  import { tables } from "../tables.svelte";
  import { ofThousandths } from "../thousandths";

  interface Props {
    label: string;
    mm: number | null;
    errors: string[];
    disabled: boolean;
    onchange: (mm: number | null) => void;
  }
  let { label, mm, errors, disabled, onchange }: Props = $props();

  // The gauge ends a little above the thickness that stops the fire.
  const most = $derived((tables.all?.stopFromMm ?? 0) + 2);
  const at = (value: number) => `${(Math.min(most, value) / most) * 100}%`;
  const id = $props.id();
</script>

<div class="grid grid-cols-[1fr_13rem] items-center gap-x-4 py-0.5 max-sm:grid-cols-1">
  <label class="relative block pb-4">
    <span class="text-quiet text-sm">{label}</span>
    <input
      type="range"
      class="range range-sm w-full"
      aria-label="{label}, by thumb"
      min="0"
      max={most}
      step="0.5"
      value={mm ?? 0}
      {disabled}
      oninput={(e) => onchange(Number(e.currentTarget.value))}
    />
    <span class="text-quiet absolute bottom-0 -translate-x-1/2 text-xs" style:left={at(tables.all?.sweepFromMm ?? 0)}
      >sweep</span
    >
    <span class="text-error absolute bottom-0 -translate-x-1/2 text-xs" style:left={at(tables.all?.stopFromMm ?? 0)}
      >stop</span
    >
  </label>
  <NumberField
    bare
    id="{id}-mm"
    {label}
    quantity="thickness"
    value={ofThousandths(mm)}
    {errors}
    {disabled}
    onchange={(m) => onchange(m === null ? null : m * 1000)}
  />
</div>
