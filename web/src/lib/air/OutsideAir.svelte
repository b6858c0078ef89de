<script lang="ts">
  import type { Schema } from "../api/client";
  import AddRow from "../components/AddRow.svelte";
  import Choices from "../components/Choices.svelte";
  import NumberField from "../components/NumberField.svelte";
  import Signs from "../components/Signs.svelte";
  import TakeOut from "../components/TakeOut.svelte";
  import Tick from "../components/Tick.svelte";
  import { tables } from "../tables.svelte";
  import { ofThousandths, thousandths } from "../thousandths";
  import Decided from "../visits/Decided.svelte";
  import Reckoning from "../visits/Reckoning.svelte";
  import type { Step, VisitState } from "../visits/visit.svelte";

  let { visit, step }: { visit: VisitState; step: Step } = $props();

  type Look = Schema["OutsideAir"];
  type Run = Schema["DuctRun"];
  const station = $derived(visit.station<Look, Schema["OutsideAirAnswer"]>(step.code, "outside-air")!);
  const look = $derived(station.entry);
  const answer = $derived(station.answer);
  const runs = $derived(look.runs ?? []);
  const { errors } = $derived(station);
  const set = (change: Partial<Look>) => station.set(change);
  $effect(() => station.reckon(undefined, true));
  // The duct stands in the elevation while it is laid here.
  $effect(() => {
    visit.duct = answer?.path.length ? answer.path : null;
    return () => (visit.duct = null);
  });
  $effect(() => {
    visit.stretchDuct = visit.writable ? (at, lengthM) => change(at, { lengthM }) : null;
    return () => (visit.stretchDuct = null);
  });

  const duct = $derived(answer?.reckoned.duct ?? null);
  const mayPa = $derived(answer?.mayCostPa ?? 0);
  const mostPa = $derived(Math.max(mayPa, ...(duct?.sizes.map((s) => Math.min(s.lossPa, 4 * mayPa)) ?? [])));
  const change = (at: number, by: Partial<Run>) => set({ runs: runs.map((r, i) => (i === at ? { ...r, ...by } : r)) });
  const without = (at: number) => set({ runs: runs.filter((_, i) => i !== at) });
  const add = (toward: string) =>
    set({
      runs: [...runs, { toward: toward as Run["toward"], lengthM: 1, through: runs.length ? "outdoors" : "wall" }],
    });
</script>

<section aria-labelledby="outside-air">
  <h3 id="outside-air">The duct, from the stove to the intake</h3>
  {#if runs.length === 0}<p class="text-quiet mb-2">
      No duct: the stove takes the room’s air. Lay one by its runs.
    </p>{/if}
  <ol class="border-base-300 border-l-2">
    {#each runs as run, i (i)}
      <li class="grid grid-cols-[1fr_9rem_1fr_auto] items-center gap-2 py-1 pl-3 max-sm:grid-cols-2">
        <select
          class="select min-h-11 w-full"
          aria-label="Run {i + 1}: where to"
          value={run.toward}
          disabled={!visit.writable}
          onchange={(e) => change(i, { toward: e.currentTarget.value as Run["toward"] })}
        >
          {#each tables.words("ductWay") as way (way.code)}<option value={way.code}>{way.name}</option>{/each}
        </select>
        <NumberField
          bare
          compact
          id="run-{i}"
          label="Run {i + 1}: length"
          quantity="length"
          value={run.lengthM ?? null}
          errors={[...errors(`runs[${i}].lengthM`), ...errors(`runs[${i}].toward`)]}
          disabled={!visit.writable}
          onchange={(lengthM) => change(i, { lengthM })}
        />
        <select
          class="select min-h-11 w-full"
          aria-label="Run {i + 1}: what it passes"
          value={run.through ?? "room"}
          disabled={!visit.writable}
          onchange={(e) => change(i, { through: e.currentTarget.value as Run["through"] })}
        >
          {#each tables.words("ductThrough") as way (way.code)}<option value={way.code}>{way.name}</option>{/each}
        </select>
        {#if visit.writable}
          <TakeOut label="Take out run {i + 1}" onclick={() => without(i)} />
        {/if}
      </li>
    {/each}
  </ol>
  {#each errors("runs") as sentence, n (n)}<p class="text-error text-sm">{sentence}</p>{/each}
  {#if visit.writable}
    <AddRow label="Add a run" kinds={tables.words("ductWay")} full={runs.length >= 12} onadd={add} />
  {/if}

  {#if duct}
    <table class="mt-4 w-full text-left">
      <caption class="text-quiet pb-1 text-left text-sm"
        >Pressure at high fire, by size; the line is what it may cost</caption
      >
      <tbody>
        {#each duct.sizes as size (size.diameterMm)}
          <tr class={duct.chosen?.diameterMm === size.diameterMm ? "font-bold" : ""}>
            <th scope="row" class="w-20 font-normal">
              <button
                type="button"
                class="btn btn-sm min-h-11"
                aria-pressed={look.diameterMm === size.diameterMm}
                disabled={!visit.writable}
                onclick={() => set({ diameterMm: look.diameterMm === size.diameterMm ? null : size.diameterMm })}
                >{tables.show(size.diameterMm / 1000, "bore")}</button
              >
            </th>
            <td class="px-2">
              <svg viewBox="0 0 200 16" class="h-4 w-full" preserveAspectRatio="none" aria-hidden="true">
                <rect y="3" height="10" width={(200 * Math.min(size.lossPa, mostPa)) / mostPa} class="fill-computed" />
                <path d="M{(200 * mayPa) / mostPa} 0V16" class="stroke-base-content" stroke-width="1.5" />
              </svg>
            </td>
            <td class="w-24 text-right"><span class="computed">{tables.show(size.lossPa, "draft")}</span></td>
            <td class="w-20 pl-2 text-sm">{size.fits ? "will do" : "too small"}</td>
          </tr>
        {/each}
      </tbody>
    </table>
    <p class="text-sm">
      {#each answer?.fires ?? [] as fire, i (fire.level)}{i ? " · " : ""}{tables
          .word("firingLevel", fire.level)
          .toLowerCase()}
        {#if fire.lossPa != null}<span class="computed">{tables.show(fire.lossPa, "draft")}</span>{/if}{/each}
    </p>

    <div class="mt-4 flex flex-wrap gap-3">
      <Choices
        label="What the duct is made of"
        options={tables.words("ductKind")}
        value={look.kind ?? "smooth"}
        disabled={!visit.writable}
        onchange={(kind) => set({ kind: kind as Look["kind"] })}
      />
      <Choices
        label="Screen at the intake"
        options={tables.words("ductScreen")}
        value={look.screen ?? "clean"}
        disabled={!visit.writable}
        onchange={(screen) => set({ screen: screen as Look["screen"] })}
      />
    </div>
    <div class="mt-3 grid grid-cols-2 gap-x-4 gap-y-4 max-sm:grid-cols-1">
      <NumberField
        id="duct-bends45"
        label="Offsets of 45°"
        quantity="count"
        value={look.bends45 ?? null}
        errors={errors("bends45")}
        disabled={!visit.writable}
        onchange={(n) => set({ bends45: n === null ? null : Math.round(n) })}
      />
      <NumberField
        id="duct-collarMm"
        label="The stove’s collar for it"
        quantity="bore"
        value={ofThousandths(look.collarMm)}
        errors={errors("collarMm")}
        disabled={!visit.writable}
        onchange={(m) => set({ collarMm: thousandths(m) })}
      />
      <NumberField
        id="duct-insulationMm"
        label="Insulation found"
        quantity="bore"
        value={ofThousandths(look.insulationMm)}
        errors={errors("insulationMm")}
        disabled={!visit.writable}
        onchange={(m) => set({ insulationMm: thousandths(m) })}
      />
      <NumberField
        id="duct-designC"
        label="Outdoors on a cold day here"
        quantity="temperature"
        value={look.designC ?? null}
        errors={errors("designC")}
        disabled={!visit.writable}
        onchange={(designC) => set({ designC })}
      />
      <NumberField
        id="duct-humidity"
        label="Humidity of the room"
        quantity="share"
        value={look.humidity ?? null}
        errors={errors("humidity")}
        disabled={!visit.writable}
        onchange={(humidity) => set({ humidity })}
      />
    </div>
    <div class="mt-2">
      <Tick
        label="A hood over the intake, its flap taken out"
        checked={look.hood ?? true}
        disabled={!visit.writable}
        onchange={(hood) => set({ hood })}
      />
    </div>
  {/if}
  <h3 class="mt-7 mb-2">Seen on duct and intake</h3>
  <Signs
    label="What is seen on duct and intake"
    none="Free, and where it should be"
    words={tables.words("intakeSign")}
    seen={look.signs}
    errors={errors("signs")}
    disabled={!visit.writable}
    onchange={(seen) => set({ signs: seen as Look["signs"] })}
  />
  <div class="mt-3 flex flex-wrap gap-x-6">
    <Tick
      label="The stove has a collar for outside air"
      checked={look.airCollar ?? true}
      disabled={!visit.writable}
      onchange={(airCollar) => set({ airCollar })}
    />
    <Tick
      label="Code asks for outside air"
      checked={look.codeAsks ?? false}
      disabled={!visit.writable}
      onchange={(codeAsks) => set({ codeAsks })}
    />
  </div>
  <Reckoning reckoner={station.reckoner} assumed={answer?.reckoned.assumed ?? []}>
    {#snippet more()}
      <ul class="my-2 grid grid-cols-3 gap-3 text-sm max-sm:grid-cols-1" aria-label="Three ways to bring the air">
        {#each answer?.schools ?? [] as way (way.school)}
          <li class="border-base-300 border-t-2 pt-1 {way.recommended ? 'border-base-content' : ''}">
            <p class="font-bold">{tables.word("airSchool", way.school)}{way.recommended ? ": this one" : ""}</p>
            <p>{way.for}</p>
            <p class="text-quiet">{way.against}</p>
          </li>
        {/each}
      </ul>
      <Decided {visit} {step} parts={answer?.parts ?? []} />
    {/snippet}
  </Reckoning>
</section>
