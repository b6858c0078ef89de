<script lang="ts">
  import { api, type Schema } from "../api/client";
  import NumberField from "../components/NumberField.svelte";
  import SentenceLine from "../components/SentenceLine.svelte";
  import type { VisitState } from "../service/visit.svelte";
  import { settings } from "../settings.svelte";
  import { tables } from "../tables.svelte";
  import { Reckoner } from "./reckoner.svelte";

  let { visit }: { visit: VisitState } = $props();

  type Check = Schema["TopCheck"];
  const saver = $derived(visit.steps["sweep"]!);
  const check = $derived<Check>(saver.value.sweep?.top ?? {});
  const reckoner = new Reckoner<Schema["TopCheckAnswer"]>();
  const errors = (field: string) => reckoner.refused[field] ?? saver.errors[field] ?? [];

  $effect(() => {
    const body = $state.snapshot(check) as Check;
    const params = { path: { id: visit.id }, query: { units: settings.system } };
    void reckoner.ask(api.POST("/api/visits/{id}/top", { params, body }));
  });

  function set(change: Partial<Check>) {
    saver.value.sweep = { ...saver.value.sweep, top: { ...check, ...change } };
    saver.changed();
  }
  const drawn = $derived(
    visit.doc.layout.roofM == null
      ? null
      : visit.doc.layout.segments[visit.doc.layout.segments.length - 1]!.path.at(-1)!.heightM - visit.doc.layout.roofM,
  );
</script>

<section aria-labelledby="top-of-chimney">
  <h3 id="top-of-chimney" class="mt-1">Top of the chimney</h3>
  <div class="grid grid-cols-2 gap-x-4 max-sm:grid-cols-1">
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
  <label class="flex items-center gap-2 py-1"
    ><input
      type="checkbox"
      class="checkbox"
      checked={check.exposed ?? false}
      disabled={!visit.writable}
      onchange={(e) => set({ exposed: e.currentTarget.checked })}
    /> Stands badly to the wind: slope, taller house, trees</label
  >
  {#if reckoner.away}<p class="text-quiet">{reckoner.away}</p>{/if}
  {#each reckoner.answer?.sentences ?? [] as sentence, i (i)}<SentenceLine {sentence} />{/each}
  {#if reckoner.answer?.rules}
    <details class="text-sm">
      <summary class="text-quiet cursor-pointer">The rules, one by one</summary>
      <ul>
        {#each reckoner.answer.rules.rules as rule (rule.rule)}
          <li>
            {rule.ok ? "✓" : "✗"}
            {rule.rule}: <span class="computed">{rule.found.toFixed(2)}</span> against {rule.limit.toFixed(2)}
            <span class="text-quiet">({tables.mark(rule.mark)})</span>
          </li>
        {/each}
      </ul>
    </details>
  {/if}
</section>
