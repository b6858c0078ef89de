<script lang="ts">
  import type { Schema } from "../api/client";
  import TextField from "../components/TextField.svelte";
  import { dayOf } from "../dates";
  import { tables } from "../tables.svelte";
  import { uuid7 } from "../uuid";
  import Correct from "./Correct.svelte";
  import Fields from "./Fields.svelte";
  import { stove, stoveLabel, stoveNumbers } from "./fields";

  interface Props {
    booked: Schema["BookedStove"];
    storeys: string[];
    errors: Record<string, string[]>;
    disabled: boolean;
    keep: (stove: Schema["Stove"], serial: string) => Promise<boolean>;
    takeOut: (why: string) => Promise<boolean>;
    replace: (id: string, stove: Schema["NewStove"]) => Promise<boolean>;
  }
  let { booked, storeys, errors, disabled, keep, takeOut, replace }: Props = $props();
  const uid = $props.id();
  let why = $state("");
  let next = $state<{ id: string; stove: Schema["NewStove"] } | null>(null);
  const labelErrors = $derived(
    Object.fromEntries(Object.entries(errors).map(([field, said]) => [field.replace(/^label\./, ""), said])),
  );
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
      id={booked.stove.id}
      value={onPlate}
      fields={[...stove(storeys), ...stoveNumbers]}
      prefix="{uid}-"
      {errors}
      assumed={booked.assumed}
      {disabled}
      keep={({ serial, ...now }) => keep(now, serial)}
    >
      {#snippet more(now, set)}
        <div class="mt-4">
          <Fields
            fields={stoveLabel}
            value={now.label ?? {}}
            prefix="{uid}-label-"
            errors={labelErrors}
            {disabled}
            onchange={(change) => set({ label: { ...now.label, ...change } as Schema["StoveLabel"] })}
          />
        </div>
      {/snippet}
    </Correct>
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
      {#if next}
        <form
          class="border-primary mt-4 border-l-4 pl-4"
          novalidate
          onsubmit={(e) => {
            e.preventDefault();
            void replace(next!.id, next!.stove);
          }}
        >
          <h3 class="mb-2">What takes its place, on the same flue</h3>
          <Fields
            fields={stove(storeys, true)}
            value={next.stove}
            prefix="{uid}-next-"
            {errors}
            onchange={(change) => (next = { ...next!, stove: { ...next!.stove, ...change } })}
          />
          <div class="mt-3 flex gap-3">
            <button class="btn btn-primary min-h-11">It stands there now</button>
            <button type="button" class="btn btn-ghost min-h-11" onclick={() => (next = null)}>Leave it</button>
          </div>
        </form>
      {:else}
        <button
          type="button"
          class="btn mt-4 min-h-11"
          onclick={() => (next = { id: uuid7(), stove: { kind: booked.stove.kind, storey: booked.stove.storey } })}
          >Another stove takes its place</button
        >
      {/if}
    {/if}
  </details>
{/if}
