<script lang="ts">
  import type { Schema } from "../api/client";
  import Choices from "../components/Choices.svelte";
  import { tables } from "../tables.svelte";

  /** The ways to light this stove, side by side. */
  type School = Schema["LightingSchool"];
  interface Props {
    lighting: Schema["Lighting"];
    school: School | null;
    disabled: boolean;
    onchange: (school: School) => void;
  }
  let { lighting, school, disabled, onchange }: Props = $props();
</script>

<p class="text-quiet">How it is lit</p>
<Choices
  label="How it is lit"
  options={tables.words("lightingSchool")}
  value={school ?? lighting.school}
  {disabled}
  onchange={(picked) => onchange(picked as School)}
/>
<table class="mt-3 w-full text-left text-sm">
  <thead class="text-quiet"
    ><tr><th>way</th><th>smoke at the start</th><th>a cold flue</th><th>attention</th></tr></thead
  >
  <tbody>
    {#each lighting.cases as way (way.school)}
      <tr class="border-base-300 border-t {way.recommended ? 'font-bold' : ''}">
        <td class="py-1 pr-2">{tables.word("lightingSchool", way.school)}{way.recommended ? ": this one" : ""}</td>
        <td class="pr-2">{way.smoke}</td><td class="pr-2">{way.coldFlue}</td><td>{way.attention}</td>
      </tr>
    {/each}
  </tbody>
</table>
