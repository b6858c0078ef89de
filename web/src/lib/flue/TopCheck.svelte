<script lang="ts">
  import type { Schema } from "../api/client";
  import NumberField from "../components/NumberField.svelte";
  import Tick from "../components/Tick.svelte";
  import { tables } from "../tables.svelte";
  import Reckoning from "../visits/Reckoning.svelte";
  import type { Step, VisitState } from "../visits/visit.svelte";

  let { visit, step }: { visit: VisitState; step: Step } = $props();

  type Check = Schema["TopCheck"];
  const station = $derived(visit.station<Check, Schema["TopCheckAnswer"]>(step.code, "top")!);
  const check = $derived(station.entry);
  const { errors } = $derived(station);
  const set = (change: Partial<Check>) => station.set(change);
  $effect(() => station.reckon());

  const drawn = $derived(
    visit.doc.layout.roofM == null
      ? null
      : visit.doc.layout.segments[visit.doc.layout.segments.length - 1]!.path.at(-1)!.heightM - visit.doc.layout.roofM,
  );
</script>

<div class="grid grid-cols-2 gap-x-4 gap-y-4 max-sm:grid-cols-1">
  <NumberField
    id="aboveRoofM"
    label="Above the roof where it passes"
    quantity="length"
    value={check.aboveRoofM ?? null}
    last={drawn}
    lastText="by the drawing: under the roof"
    lastWord="by the drawing"
    errors={errors("aboveRoofM")}
    disabled={!visit.writable}
    onchange={(aboveRoofM) => set({ aboveRoofM })}
  />
  <NumberField
    id="screenCloggedShare"
    label="Screen clogged"
    quantity="share"
    value={check.screenCloggedShare ?? null}
    errors={errors("screenCloggedShare")}
    disabled={!visit.writable}
    onchange={(screenCloggedShare) => set({ screenCloggedShare })}
  />
</div>
<div class="mt-4">
  <Tick
    label="Stands badly to the wind: slope, taller house, trees"
    checked={check.exposed ?? false}
    disabled={!visit.writable}
    onchange={(exposed) => set({ exposed })}
  />
</div>
<Reckoning reckoner={station.reckoner} assumed={[]}>
  {#snippet more()}
    {#if station.answer?.rules}
      <details class="mt-2 text-sm">
        <summary class="text-quiet min-h-11 cursor-pointer py-2">The rules, one by one</summary>
        <ul>
          {#each station.answer.rules.rules as rule (rule.rule)}
            <li>
              {rule.ok ? "✓" : "✗"}
              {rule.rule}: <span class="computed">{tables.show(rule.found, "length")}</span> against
              {tables.show(rule.limit, "length")}
              <span class="text-quiet">({tables.word("mark", rule.mark).toLowerCase()})</span>
            </li>
          {/each}
        </ul>
      </details>
    {/if}
  {/snippet}
</Reckoning>
