<script lang="ts">
  import Choices from "../components/Choices.svelte";
  import NumberField from "../components/NumberField.svelte";
  import { levels, type Level } from "./levels";

  interface Props {
    level: Level;
    outdoorC: number | null;
    errors: string[];
  }
  let { level = $bindable(), outdoorC = $bindable(), errors }: Props = $props();
</script>

<div class="flex flex-wrap items-center gap-3 py-1">
  <Choices label="Fire" options={levels()} value={level} onchange={(l) => (level = l)} />
  <div class="w-48">
    <NumberField
      id="outdoor"
      label="Outdoors"
      quantity="temperature"
      value={outdoorC}
      {errors}
      last={null}
      lastText="empty: this month’s mean"
      onchange={(v) => (outdoorC = v)}
    />
  </div>
</div>
