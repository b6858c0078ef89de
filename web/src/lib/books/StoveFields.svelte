<script lang="ts">
  import type { Schema } from "../api/client";
  import NumberField from "../components/NumberField.svelte";
  import TextField from "../components/TextField.svelte";
  import Tick from "../components/Tick.svelte";
  import { dayOf } from "../dates";
  import { tables } from "../tables.svelte";

  interface Props {
    booked: Schema["BookedStove"];
    storeys: string[];
    errors: Record<string, string[]>;
    disabled: boolean;
    keep: (stove: Schema["Stove"], serial: string) => Promise<boolean>;
    takeOut: (why: string) => Promise<boolean>;
  }
  let { booked, storeys, errors, disabled, keep, takeOut }: Props = $props();
  const uid = $props.id();
  // svelte-ignore state_referenced_locally
  let now = $state({ ...booked.stove });
  // svelte-ignore state_referenced_locally
  let serial = $state(booked.serial);
  let why = $state("");
  const changed = $derived(JSON.stringify(now) !== JSON.stringify(booked.stove) || serial !== booked.serial);
  const set = (change: Partial<Schema["Stove"]>) => (now = { ...now, ...change });
  const mark = (field: string) => (booked.assumed.includes(field) ? " (taken as usual)" : "");
</script>

<div class="flex flex-wrap items-baseline gap-x-4">
  <a class="link text-lg font-semibold" href="/stoves/{booked.stove.id}">{booked.stove.model}</a>
  <span class="text-quiet">{tables.kindName(booked.stove.kind, booked.stove.combustor)}, {booked.stove.room}</span>
  {#if booked.outAt}<span>taken out {dayOf(booked.outAt)}: {booked.outWhy}</span>
  {:else}<a class="link ml-auto" href="/stoves/{booked.stove.id}/flue">Its flue</a>{/if}
</div>
{#if !booked.outAt}
  <details class="mt-1" open={Object.keys(errors).length > 0}>
    <summary class="link min-h-11 cursor-pointer py-2">{disabled ? "What the books say" : "Correct"}</summary>
    <form
      novalidate
      onsubmit={(e) => {
        e.preventDefault();
        void keep(now, serial);
      }}
    >
      <div class="grid gap-4 sm:grid-cols-2">
        <label class="block"
          ><span class="text-quiet mb-1 block text-sm">Kind</span>
          <select
            class="select min-h-11 w-full"
            {disabled}
            value={now.kind}
            onchange={(e) => set({ kind: e.currentTarget.value })}
          >
            {#each tables.all?.kinds ?? [] as kind (kind.code)}<option value={kind.code}>{kind.name}</option>{/each}
          </select></label
        >
        <div class="self-end">
          <Tick
            label="Catalytic combustor"
            checked={now.combustor}
            {disabled}
            onchange={(combustor) => set({ combustor })}
          />
        </div>
        <TextField
          id="{uid}-model"
          label="Maker and model{mark('model')}"
          most={200}
          value={now.model}
          {disabled}
          errors={errors.model}
          onchange={(model) => set({ model })}
        />
        <TextField
          id="{uid}-serial"
          label="Serial number"
          most={100}
          value={serial}
          {disabled}
          errors={errors.serial}
          onchange={(v) => (serial = v)}
        />
        <TextField
          id="{uid}-room"
          label="Room"
          most={100}
          value={now.room}
          {disabled}
          errors={errors.room}
          onchange={(room) => set({ room })}
        />
        <label class="block"
          ><span class="text-quiet mb-1 block text-sm">Storey</span>
          <select
            class="select min-h-11 w-full"
            {disabled}
            value={now.storey}
            onchange={(e) => set({ storey: Number(e.currentTarget.value) })}
          >
            {#each storeys as name, i (i)}<option value={i}>{name}</option>{/each}
          </select></label
        >
        <NumberField
          id="{uid}-year"
          label="Year{mark('year')}"
          quantity="count"
          compact
          value={now.year}
          {disabled}
          errors={errors.year}
          onchange={(n) => n !== null && set({ year: Math.round(n) })}
        />
        <NumberField
          id="{uid}-kw"
          label="Output, kW{mark('nominalKw')}"
          quantity="ratio"
          compact
          value={now.nominalKw}
          {disabled}
          errors={errors.nominalKw}
          onchange={(n) => n !== null && set({ nominalKw: n })}
        />
        <NumberField
          id="{uid}-min"
          label="Label: draft at least"
          quantity="draft"
          compact
          value={now.labelMinPa ?? null}
          {disabled}
          errors={errors.labelMinPa}
          onchange={(labelMinPa) => set({ labelMinPa })}
        />
        <NumberField
          id="{uid}-max"
          label="Label: draft at most"
          quantity="draft"
          compact
          value={now.labelMaxPa ?? null}
          {disabled}
          errors={errors.labelMaxPa}
          onchange={(labelMaxPa) => set({ labelMaxPa })}
        />
        <NumberField
          id="{uid}-collar"
          label="Collar above the floor{mark('collarHeightM')}"
          quantity="length"
          compact
          value={now.collarHeightM}
          {disabled}
          errors={errors.collarHeightM}
          onchange={(n) => n !== null && set({ collarHeightM: n })}
        />
      </div>
      {#if changed}<button class="btn btn-primary mt-3 min-h-11">Keep it</button>{/if}
    </form>
    {#if !disabled}
      <form
        class="mt-4 flex flex-wrap items-end gap-3"
        novalidate
        onsubmit={(e) => {
          e.preventDefault();
          void takeOut(why);
        }}
      >
        <TextField
          id="{uid}-why"
          label="Taken out of the house: say why"
          most={200}
          value={why}
          errors={errors.why}
          onchange={(v) => (why = v)}
        />
        <button class="btn min-h-11">Taken out</button>
      </form>
    {/if}
  </details>
{/if}
