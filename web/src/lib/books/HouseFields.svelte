<script lang="ts">
  import type { Schema } from "../api/client";
  import NumberField from "../components/NumberField.svelte";
  import TextField from "../components/TextField.svelte";
  import { tables } from "../tables.svelte";

  interface Props {
    booked: Schema["BookedHouse"];
    errors: Record<string, string[]>;
    disabled: boolean;
    keep: (house: Schema["House"]) => Promise<boolean>;
  }
  let { booked, errors, disabled, keep }: Props = $props();
  // svelte-ignore state_referenced_locally
  let now = $state(structuredClone($state.snapshot(booked.house)));
  const changed = $derived(JSON.stringify(now) !== JSON.stringify(booked.house));
  const set = (change: Partial<Schema["House"]>) => (now = { ...now, ...change });
  const mark = (field: string) => (booked.assumed.includes(field) ? " (taken as usual)" : "");
  const months = ["Jan", "Feb", "Mar", "Apr", "May", "Jun", "Jul", "Aug", "Sep", "Oct", "Nov", "Dec"];
  const numbers = [
    { code: "latitude", label: "Latitude, °", quantity: "ratio" },
    { code: "longitude", label: "Longitude, °", quantity: "ratio" },
    { code: "altitudeM", label: "Altitude", quantity: "altitude" },
    { code: "volumeM3", label: "Heated volume", quantity: "volume" },
    { code: "ach50", label: "Blower door, air changes at 50 Pa", quantity: "ratio" },
    { code: "widthM", label: "Width", quantity: "length" },
    { code: "roofPitchDeg", label: "Roof pitch, °", quantity: "ratio" },
    { code: "groundM", label: "Ground above the lowest floor", quantity: "length" },
  ] as const;
</script>

<form
  novalidate
  onsubmit={(e) => {
    e.preventDefault();
    void keep(now);
  }}
>
  <div class="grid gap-4 sm:grid-cols-2">
    <TextField
      id="{now.id}-street"
      label="Street and number"
      most={200}
      value={now.street}
      {disabled}
      errors={errors.street}
      onchange={(street) => set({ street })}
    />
    <TextField
      id="{now.id}-place"
      label="Place"
      most={200}
      value={now.place}
      {disabled}
      errors={errors.place}
      onchange={(place) => set({ place })}
    />
    <label class="block"
      ><span class="text-quiet mb-1 block text-sm">Built{mark("builtEra")}</span>
      <select
        class="select min-h-11 w-full"
        {disabled}
        value={now.builtEra ?? ""}
        onchange={(e) => set({ builtEra: e.currentTarget.value || null })}
      >
        <option value="">not known</option>
        {#each tables.words("builtEra") as era (era.code)}<option value={era.code}>{era.name}</option>{/each}
      </select>
      {#each errors.builtEra ?? [] as sentence (sentence)}<span class="text-error block text-sm">{sentence}</span
        >{/each}</label
    >
    {#each numbers as n (n.code)}
      <NumberField
        id="{now.id}-{n.code}"
        label={n.label + mark(n.code)}
        quantity={n.quantity}
        compact
        value={now[n.code] ?? null}
        {disabled}
        errors={errors[n.code]}
        onchange={(v) => (v !== null || n.code === "volumeM3" || n.code === "ach50") && set({ [n.code]: v })}
      />
    {/each}
  </div>
  <fieldset class="mt-4">
    <legend class="text-quiet text-sm">Storeys from the lowest{mark("storeyNames")}</legend>
    {#each now.storeyNames as name, i (i)}
      <div class="grid grid-cols-2 gap-3">
        <TextField
          id="{now.id}-storey-{i}"
          label="Name"
          most={60}
          value={name}
          {disabled}
          onchange={(v) => set({ storeyNames: now.storeyNames.with(i, v) })}
        />
        <NumberField
          id="{now.id}-height-{i}"
          label="Height"
          quantity="length"
          compact
          value={now.storeyHeightsM[i] ?? null}
          {disabled}
          errors={errors[`storeyHeightsM[${i}]`]}
          onchange={(v) => v !== null && set({ storeyHeightsM: now.storeyHeightsM.with(i, v) })}
        />
      </div>
    {/each}
    {#each errors.storeyNames ?? [] as sentence (sentence)}<p class="text-error text-sm">{sentence}</p>{/each}
    {#if !disabled}
      <div class="mt-2 flex gap-3">
        <button
          type="button"
          class="btn btn-sm min-h-11"
          onclick={() =>
            set({ storeyNames: [...now.storeyNames, "upper room"], storeyHeightsM: [...now.storeyHeightsM, 2.6] })}
          >Another storey</button
        >
        {#if now.storeyNames.length > 1}
          <button
            type="button"
            class="btn btn-sm min-h-11"
            onclick={() =>
              set({ storeyNames: now.storeyNames.slice(0, -1), storeyHeightsM: now.storeyHeightsM.slice(0, -1) })}
            >Without the top one</button
          >
        {/if}
      </div>
    {/if}
  </fieldset>
  <fieldset class="mt-4">
    <legend class="text-quiet text-sm">Monthly means{mark("monthlyC")}</legend>
    <div class="grid grid-cols-3 gap-2 sm:grid-cols-6">
      {#each months as month, i (month)}
        <NumberField
          id="{now.id}-{month}"
          label={month}
          quantity="temperature"
          compact
          value={now.monthlyC[i] ?? null}
          {disabled}
          errors={errors[`monthlyC[${i}]`]}
          onchange={(v) => v !== null && set({ monthlyC: now.monthlyC.with(i, v) })}
        />
      {/each}
    </div>
  </fieldset>
  {#if changed}<button class="btn btn-primary mt-3 min-h-11">Keep it</button>{/if}
</form>
