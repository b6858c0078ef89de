<script lang="ts">
  import type { Schema } from "../api/client";
  import NumberField from "../components/NumberField.svelte";
  import TextField from "../components/TextField.svelte";
  import Correct from "./Correct.svelte";
  import { address, house, whereabouts } from "./fields";

  type House = Schema["House"];
  interface Props {
    booked: Schema["BookedHouse"];
    errors: Record<string, string[]>;
    disabled: boolean;
    keep: (house: House) => Promise<boolean>;
  }
  let { booked, errors, disabled, keep }: Props = $props();
  const id = $derived(booked.house.id);
  const mark = (field: string) => (booked.assumed.includes(field) ? " (taken as usual)" : "");
  const months = ["Jan", "Feb", "Mar", "Apr", "May", "Jun", "Jul", "Aug", "Sep", "Oct", "Nov", "Dec"];
</script>

<Correct
  {id}
  value={booked.house}
  fields={[...address(), ...whereabouts(), ...house]}
  prefix="{id}-"
  {errors}
  assumed={booked.assumed}
  {disabled}
  {keep}
>
  {#snippet more(now: House, set: (change: Partial<House>) => void)}
    <fieldset class="mt-4">
      <legend class="text-quiet text-sm">Storeys from the lowest{mark("storeyNames")}</legend>
      {#each now.storeyNames as name, i (i)}
        <div class="grid grid-cols-2 gap-3">
          <TextField
            id="{id}-storey-{i}"
            label="Name"
            most={60}
            value={name}
            {disabled}
            onchange={(v) => set({ storeyNames: now.storeyNames.with(i, v) })}
          />
          <NumberField
            id="{id}-height-{i}"
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
      {#each errors.storeyNames ?? [] as sentence, n (n)}<p class="text-error text-sm">{sentence}</p>{/each}
      {#if !disabled}
        <div class="mt-2 flex gap-3">
          <button
            type="button"
            class="btn btn-sm min-h-11"
            onclick={() =>
              set({
                storeyNames: [...now.storeyNames, "upper room"],
                storeyHeightsM: [...now.storeyHeightsM, 2.6],
              })}>Another storey</button
          >
          {#if now.storeyNames.length > 1}
            <button
              type="button"
              class="btn btn-sm min-h-11"
              onclick={() =>
                set({
                  storeyNames: now.storeyNames.slice(0, -1),
                  storeyHeightsM: now.storeyHeightsM.slice(0, -1),
                })}>Without the top one</button
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
            id="{id}-{month}"
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
  {/snippet}
</Correct>
