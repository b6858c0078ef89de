<script lang="ts">
  import type { Schema } from "../api/client";
  import NumberField from "../components/NumberField.svelte";
  import TextField from "../components/TextField.svelte";
  import Tick from "../components/Tick.svelte";
  import { tables } from "../tables.svelte";

  /** A stove as it is told of before anybody saw it. */
  type Told = Schema["NewStove"];
  interface Props {
    stove: Told;
    /** Storeys of the house, where they are known. */
    storeys?: string[];
    errors: Record<string, string[]>;
    onchange: (stove: Told) => void;
  }
  let { stove, storeys = [], errors, onchange }: Props = $props();

  const set = (change: Partial<Told>) => onchange({ ...stove, ...change });
</script>

<div class="grid gap-4 sm:grid-cols-2">
  <label class="block"
    ><span class="text-quiet mb-1 block text-sm">Kind</span>
    <select
      class="select min-h-11 w-full"
      id="kind"
      aria-invalid={!!errors.kind}
      value={stove.kind ?? ""}
      onchange={(e) => set({ kind: e.currentTarget.value || null })}
    >
      <option value="">choose one</option>
      {#each tables.all?.kinds ?? [] as kind (kind.code)}<option value={kind.code}>{kind.name}</option>{/each}
    </select>
    {#each errors.kind ?? [] as sentence (sentence)}<span class="text-error block text-sm">{sentence}</span
      >{/each}</label
  >
  <div class="self-end">
    <Tick label="Catalytic combustor" checked={stove.combustor === true} onchange={(combustor) => set({ combustor })} />
  </div>
  <TextField
    id="model"
    label="Maker and model, as its plate says"
    most={200}
    value={stove.model ?? ""}
    errors={errors.model}
    onchange={(model) => set({ model })}
  />
  <TextField
    id="serial"
    label="Serial number"
    most={100}
    value={stove.serial ?? ""}
    errors={errors.serial}
    onchange={(serial) => set({ serial })}
  />
  <TextField
    id="room"
    label="Room"
    most={100}
    value={stove.room ?? ""}
    errors={errors.room}
    onchange={(room) => set({ room })}
  />
  <NumberField
    id="year"
    label="Year"
    quantity="count"
    compact
    value={stove.year ?? null}
    errors={errors.year}
    onchange={(year) => set({ year: year === null ? null : Math.round(year) })}
  />
  <label class="block"
    ><span class="text-quiet mb-1 block text-sm">Flue</span>
    <select
      class="select min-h-11 w-full"
      id="flue"
      value={stove.flue ?? ""}
      onchange={(e) => set({ flue: e.currentTarget.value || null })}
    >
      <option value="">usual for its kind</option>
      {#each tables.words("usualFlue") as flue (flue.code)}<option value={flue.code}>{flue.name}</option>{/each}
    </select></label
  >
  {#if storeys.length > 1}
    <label class="block"
      ><span class="text-quiet mb-1 block text-sm">Storey</span>
      <select
        class="select min-h-11 w-full"
        value={stove.storey ?? 0}
        onchange={(e) => set({ storey: Number(e.currentTarget.value) })}
      >
        {#each storeys as name, i (i)}<option value={i}>{name}</option>{/each}
      </select></label
    >
  {/if}
</div>
{#each errors.storey ?? [] as sentence (sentence)}<p class="text-error text-sm">{sentence}</p>{/each}
