<script lang="ts">
  import type { Schema } from "../api/client";
  import Choices from "../components/Choices.svelte";
  import { day, timeNow } from "../dates";
  import NumberField from "../components/NumberField.svelte";
  import Cuts from "../stock/Cuts.svelte";
  import { tables } from "../tables.svelte";
  import { ofThousandths, thousandths } from "../thousandths";
  import Reckoning from "../visits/Reckoning.svelte";
  import WorkOrder from "../visits/WorkOrder.svelte";
  import type { Step, VisitState } from "../visits/visit.svelte";

  let { visit, step }: { visit: VisitState; step: Step } = $props();

  type Record = Schema["SealsRecord"];
  type Seal = Schema["SealRecord"];
  const station = $derived(visit.station<Record, Schema["SealsAnswer"]>(step.code, "seals")!);
  const { errors } = $derived(station);
  $effect(() => station.reckon(undefined, true));

  const seals = $derived(station.answer?.seals ?? []);
  let picked = $state<string>("door");
  const answer = $derived(seals.find((s) => s.place === picked) ?? null);
  const seal = $derived<Seal>(station.entry.seals?.[picked] ?? {});
  const field = (name: string) => `seals.${picked}.${name}`;
  const set = (change: Partial<Seal>) =>
    station.set({ seals: { ...station.entry.seals, [picked]: { ...seal, ...change } } });
  const cemented = $derived(seal.done?.includes("cemented") ?? false);

  // The clock of the cement starts with its tick.
  function work(done: string[]) {
    set({ done, cementedAt: done.includes("cemented") ? (seal.cementedAt ?? `${timeNow()}:00`) : null });
  }

  const sizes: { name: "widthMm" | "depthMm" | "manualMm" | "oldMm"; label: string; channel?: boolean }[] = [
    { name: "widthMm", label: "Width of the channel", channel: true },
    { name: "depthMm", label: "Depth of the channel", channel: true },
    { name: "manualMm", label: "Size by the manual" },
    { name: "oldMm", label: "Size of the old one" },
  ];

  const stateOf = (place: string) => {
    const done = station.entry.seals?.[place]?.done ?? [];
    return done.includes("refitted") ? "●" : done.includes("off") ? "!" : "○";
  };
</script>

<section aria-labelledby="seals">
  <h3 id="seals" class="sr-only">Seals</h3>
  <Choices
    label="Which seal"
    options={seals.map((s) => ({ code: s.place as string, name: `${stateOf(s.place as string)} ${s.name}` }))}
    value={picked}
    onchange={(place) => (picked = place)}
  />
  {#if answer}
    {#if answer.fitted}
      <p class="text-quiet mt-2 text-sm">
        Fitted {day(answer.fitted.fitted)}{answer.fitted.rope ? `, ${answer.fitted.rope}` : ""}{answer.fitted.lengthM
          ? `, ${tables.show(answer.fitted.lengthM, "length")}`
          : ""}; usual end
        {answer.fitted.endFrom.slice(0, 4)} to {answer.fitted.endBy.slice(0, 4)}
      </p>
    {/if}
    <div class="mt-3">
      <Choices
        label="Kind of this seal"
        options={[
          { code: "rope", name: "Rope" },
          { code: "tape", name: "Tape" },
        ]}
        value={seal.kind ?? answer.kind}
        disabled={!visit.writable}
        onchange={(kind) => set({ kind })}
      />
    </div>
    <div class="mt-3 grid grid-cols-2 gap-x-4 gap-y-4 max-sm:grid-cols-1">
      {#each sizes.filter((size) => size.channel !== true || answer.kind === "rope") as size (size.name)}
        <NumberField
          id="{picked}-{size.name}"
          label={size.label}
          quantity="bore"
          value={ofThousandths(seal[size.name])}
          errors={errors(field(size.name))}
          disabled={!visit.writable}
          onchange={(m) => set({ [size.name]: thousandths(m) })}
        />
      {/each}
      <NumberField
        id="{picked}-lineM"
        label="Centre line, by the wheel"
        quantity="length"
        value={seal.lineM ?? null}
        last={answer.lineM ?? null}
        lastWord="taken as"
        errors={errors(field("lineM"))}
        disabled={!visit.writable}
        onchange={(lineM) => set({ lineM })}
      />
      <div>
        <span class="text-quiet mb-1 block text-sm">Cement by the manual</span>
        <Choices
          label="Cement by the manual"
          options={[
            { code: "silent", name: "Silent" },
            { code: "yes", name: "Yes" },
            { code: "no", name: "No" },
          ]}
          value={seal.manualCement == null ? "silent" : seal.manualCement ? "yes" : "no"}
          disabled={!visit.writable}
          onchange={(says) => set({ manualCement: says === "silent" ? null : says === "yes" })}
        />
      </div>
    </div>
    <h4 class="mt-5 mb-1 font-semibold">New {answer.kind}, in its order</h4>
    <WorkOrder
      order={answer.order}
      done={seal.done ?? []}
      errors={errors(field("done"))}
      disabled={!visit.writable}
      onchange={work}
    />
    {#if cemented}
      <div class="mt-3 grid grid-cols-2 items-end gap-x-4 max-sm:grid-cols-1">
        <label class="text-quiet text-sm"
          >Cement laid at
          <input
            type="time"
            class="input flex min-h-11 w-36"
            disabled={!visit.writable}
            value={seal.cementedAt?.slice(0, 5) ?? ""}
            onchange={(e) => set({ cementedAt: e.currentTarget.value ? `${e.currentTarget.value}:00` : null })}
          /></label
        >
        <NumberField
          id="{picked}-cureH"
          label="Hours it cures, as on the tube"
          quantity="ratio"
          value={seal.cureH ?? null}
          errors={errors(field("cureH"))}
          disabled={!visit.writable}
          onchange={(cureH) => set({ cureH })}
        />
      </div>
    {/if}
  {/if}
  <Reckoning reckoner={station.reckoner} assumed={[]} />
  <h4 class="mt-5 mb-1 font-semibold">Cutting plan, from this van</h4>
  <Cuts
    of={{ visitId: visit.id }}
    vanId={visit.doc.visit.row.technicianId}
    stamp={station.saver.version}
    disabled={!visit.writable}
  />
</section>
