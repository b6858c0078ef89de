<script lang="ts">
  import type { Schema } from "../api/client";
  import TextField from "../components/TextField.svelte";
  import { dayOf } from "../dates";
  import { tables } from "../tables.svelte";
  import Correct from "./Correct.svelte";
  import { stove, stoveNumbers } from "./fields";

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
  let why = $state("");
  const onPlate = $derived({ ...booked.stove, serial: booked.serial });
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
    <Correct
      value={onPlate}
      fields={[...stove(storeys), ...stoveNumbers]}
      prefix="{uid}-"
      {errors}
      assumed={booked.assumed}
      {disabled}
      keep={({ serial, ...now }) => keep(now, serial)}
    />
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
