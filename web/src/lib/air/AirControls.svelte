<script lang="ts">
  import type { Schema } from "../api/client";
  import AddRow from "../components/AddRow.svelte";
  import Choices from "../components/Choices.svelte";
  import NumberField from "../components/NumberField.svelte";
  import TakeOut from "../components/TakeOut.svelte";
  import TextField from "../components/TextField.svelte";
  import { tables } from "../tables.svelte";
  import { ofThousandths, thousandths } from "../thousandths";
  import Decided from "../visits/Decided.svelte";
  import Reckoning from "../visits/Reckoning.svelte";
  import type { Step, VisitState } from "../visits/visit.svelte";

  // `again`: in the hot test, where each control is tried with a fire.
  let { visit, step, again = false }: { visit: VisitState; step: Step; again?: boolean } = $props();

  type Control = Schema["AirControl"];
  const station = $derived(
    visit.station<Schema["AirControls"], Schema["AirControlsAnswer"]>(step.code, "air-controls")!,
  );
  const answer = $derived(station.answer);
  // The controls of a stove stay: those of the visit before stand here until this one has its own; they are tried anew.
  const controls = $derived<Control[]>(
    station.entry.controls ??
      (station.earlier?.controls ?? []).map((c) => ({ ...c, moves: null, closes: null, readings: null })),
  );
  const { errors } = $derived(station);
  $effect(() => station.reckon({ ...$state.snapshot(station.entry), controls: $state.snapshot(controls) }, true));

  const set = (next: Control[]) => station.set({ controls: next });
  const change = (at: number, by: Partial<Control>) => set(controls.map((c, i) => (i === at ? { ...c, ...by } : c)));
  type Reading = Schema["FireAtPosition"];
  const read = (at: number, position: string, by: Partial<Reading>) => {
    const readings = controls[at]!.readings ?? {};
    change(at, { readings: { ...readings, [position]: { ...readings[position], ...by } } });
  };
  const yesNo = [
    { code: "yes", name: "Closes fully" },
    { code: "no", name: "Does not" },
  ] as const;
</script>

<section aria-labelledby="air-controls">
  <h3 id="air-controls" class="sr-only">Air controls</h3>
  <ol>
    {#each controls as control, i (i)}
      {@const setting = answer?.settings[i]}
      <li class="border-base-300 border-b py-3">
        <div class="flex items-center gap-2">
          <h4 class="grow font-bold">{tables.word("airControlKind", control.kind)}</h4>
          {#if visit.writable}
            <TakeOut
              label="Take out {tables.word('airControlKind', control.kind)}"
              onclick={() => set(controls.filter((_, at) => at !== i))}
            />
          {/if}
        </div>
        {#if again}
          <div class="grid grid-cols-[5rem_1fr_1fr] items-end gap-x-3 gap-y-2">
            {#each tables.words("controlPosition") as position (position.code)}
              <span class="pb-3">{position.name}</span>
              <NumberField
                compact
                id="control-{i}-{position.code}-draftPa"
                label="Draft"
                quantity="draft"
                instrument="draftPa"
                value={control.readings?.[position.code]?.draftPa ?? null}
                errors={errors(`controls[${i}].readings.${position.code}.draftPa`)}
                disabled={!visit.writable}
                onchange={(draftPa) => read(i, position.code, { draftPa })}
              />
              <NumberField
                compact
                id="control-{i}-{position.code}-calmS"
                label="Seconds until the flames follow"
                quantity="count"
                value={control.readings?.[position.code]?.calmS ?? null}
                errors={errors(`controls[${i}].readings.${position.code}.calmS`)}
                disabled={!visit.writable}
                onchange={(calmS) => read(i, position.code, { calmS })}
              />
            {/each}
          </div>
        {:else}
          <div class="flex flex-wrap gap-3">
            <Choices
              label="How it moves"
              options={tables.words("controlMoves")}
              value={control.moves ?? null}
              disabled={!visit.writable}
              onchange={(moves) => change(i, { moves: moves as Control["moves"] })}
            />
            <Choices
              label="Whether it closes fully"
              options={yesNo}
              value={control.closes == null ? null : control.closes ? "yes" : "no"}
              disabled={!visit.writable}
              onchange={(code) => change(i, { closes: code === "yes" })}
            />
          </div>
          <div class="mt-3 grid grid-cols-2 gap-x-4 gap-y-3 max-sm:grid-cols-1">
            <TextField
              id="control-{i}-label"
              label="Label at its positions"
              value={control.label ?? ""}
              most={40}
              errors={errors(`controls[${i}].label`)}
              disabled={!visit.writable}
              onchange={(label) => change(i, { label })}
            />
            <NumberField
              id="control-{i}-travelMm"
              label="Travel"
              quantity="bore"
              value={ofThousandths(control.travelMm)}
              errors={errors(`controls[${i}].travelMm`)}
              disabled={!visit.writable}
              onchange={(m) => change(i, { travelMm: thousandths(m) })}
            />
          </div>
          <div class="mt-3 flex flex-wrap items-center gap-x-3 gap-y-2">
            <span class="text-quiet text-sm">for wood, once it burns</span>
            <Choices
              label="Setting for wood"
              options={tables.words("controlPosition")}
              value={control.wood ?? setting?.wood ?? null}
              disabled={!visit.writable}
              onchange={(wood) => change(i, { wood: wood as Control["wood"] })}
            />
            {#if setting?.coal}
              <span class="text-quiet text-sm">for coal</span>
              <Choices
                label="Setting for coal"
                options={tables.words("controlPosition")}
                value={control.coal ?? setting.coal}
                disabled={!visit.writable}
                onchange={(coal) => change(i, { coal: coal as Control["coal"] })}
              />
            {/if}
          </div>
        {/if}
      </li>
    {/each}
  </ol>
  {#each errors("controls") as sentence, n (n)}<p class="text-error text-sm">{sentence}</p>{/each}
  {#if again && controls.length === 0}<p class="text-quiet">No control is listed: list them in the cold checks.</p>{/if}
  {#if visit.writable && !again}
    <AddRow
      label="Add a control"
      kinds={tables.words("airControlKind")}
      full={controls.length >= 8}
      onadd={(code) => set([...controls, { kind: code as Control["kind"] }])}
    />
  {/if}
  <Reckoning reckoner={station.reckoner} assumed={[]}>
    {#snippet more()}<Decided {visit} {step} parts={answer?.parts ?? []} />{/snippet}
  </Reckoning>
</section>
