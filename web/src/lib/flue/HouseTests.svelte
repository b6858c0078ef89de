<script lang="ts">
  import type { Snippet } from "svelte";
  import type { Schema } from "../api/client";
  import NumberField from "../components/NumberField.svelte";
  import { tables } from "../tables.svelte";
  import type { StationState } from "../visits/station.svelte";
  import type { VisitState } from "../visits/visit.svelte";
  import type { Level } from "./levels";

  type HotTest = Schema["HotTest"];
  interface Props {
    visit: VisitState;
    station: StationState<HotTest, Schema["HotTestAnswer"]>;
    level: Level;
    /** What else can be entered: room, CO, wood. */
    more: Snippet;
  }
  let { visit, station, level, more }: Props = $props();

  const test = $derived(station.entry);
  const errors = $derived(station.errors);
  const worst = $derived<Schema["WorstCase"]>(test.fans ?? {});
  const controls = $derived(test.controls ?? []);
  const measuredCold = $derived(
    visit.station<Schema["ColdChecks"], Schema["ColdChecksAnswer"]>("cold-checks", "cold-flue")?.entry,
  );
  const reading = $derived(test.readings?.find((r) => r.level === level));

  function set(change: Partial<HotTest>) {
    station.set({ readings: test.readings ?? [], ...change });
  }

  function control(position: Schema["ControlReading"]["position"], change: Partial<Schema["ControlReading"]>) {
    const found = controls.find((c) => c.position === position) ?? { position };
    set({ controls: [...controls.filter((c) => c.position !== position), { ...found, ...change }] });
  }

  let open = $state<"more" | "window" | "fans" | "control" | null>(null);
  const panels = $derived([
    { code: "window", name: "Window test", filled: test.window?.draftPa != null },
    { code: "fans", name: "Fans test", filled: Object.values(worst).some((v) => v != null) },
    { code: "control", name: "Air control", filled: controls.length > 0 },
    { code: "more", name: "Room, CO, wood, O₂", filled: test.coPpm != null },
  ] as const);

  const fields: { field: keyof Schema["WorstCase"]; label: string; last: number | null | undefined }[] = $derived([
    { field: "roomOffPa", label: "Room, all off", last: measuredCold?.roomOffPa },
    { field: "roomOnPa", label: "Room, all on", last: measuredCold?.roomOnPa },
    { field: "draftOffPa", label: "Draft, all off", last: reading?.draftPa },
    { field: "draftOnPa", label: "Draft, all on", last: undefined },
  ]);
</script>

<div class="mt-4 mb-2 flex flex-wrap gap-1.5">
  {#each panels as panel (panel.code)}
    <button
      type="button"
      class="btn btn-sm min-h-11 {open === panel.code ? 'outline-base-content outline-2 -outline-offset-2' : ''}"
      aria-expanded={open === panel.code}
      onclick={() => (open = open === panel.code ? null : panel.code)}>{panel.name}{panel.filled ? " ✓" : ""}</button
    >
  {/each}
</div>
{#if open === "window"}
  <div class="grid grid-cols-2 gap-x-4 gap-y-4 max-sm:grid-cols-1">
    <NumberField
      id="windowPa"
      label="Draft with a window open"
      quantity="draft"
      instrument="draftPa"
      value={test.window?.draftPa ?? null}
      last={reading?.draftPa ?? null}
      lastWord="closed"
      lastText="take the closed reading first"
      errors={errors("window.draftPa")}
      disabled={!visit.writable}
      onchange={(draftPa) => set({ window: draftPa === null ? null : { level, draftPa } })}
    />
    <p class="text-quiet self-center text-sm">
      The fire as it was, one window of this room wide open, wait a minute.
      {#if test.window && test.window.level !== level}Made at {test.window.level} fire.{/if}
    </p>
  </div>
{:else if open === "fans"}
  <div class="grid grid-cols-2 gap-x-4 gap-y-4 max-sm:grid-cols-1">
    {#each fields as f (f.field)}
      <NumberField
        id={f.field}
        label={f.label}
        quantity="draft"
        instrument={f.field.startsWith("room") ? "roomPa" : "draftPa"}
        value={worst[f.field] ?? null}
        last={f.last}
        lastWord="read before"
        errors={errors(`fans.${f.field}`)}
        disabled={!visit.writable}
        onchange={(value) => set({ fans: { ...worst, [f.field]: value } })}
      />
    {/each}
  </div>
{:else if open === "control"}
  <div class="grid grid-cols-3 gap-x-4 max-sm:grid-cols-1">
    {#each tables.words("controlPosition") as { code, name } (code)}
      {@const position = code as Schema["ControlReading"]["position"]}
      {@const at = controls.find((c) => c.position === position)}
      <div>
        <NumberField
          id="control-{position}"
          label="Draft, control {name.toLowerCase()}"
          quantity="draft"
          instrument="draftPa"
          value={at?.draftPa ?? null}
          errors={errors(`controls.${position}`)}
          disabled={!visit.writable}
          onchange={(draftPa) => control(position, { draftPa })}
        />
        <input
          class="input input-sm w-full"
          aria-label="What the flames do, control {position}"
          placeholder="what the flames do"
          maxlength="200"
          disabled={!visit.writable}
          value={at?.flames ?? ""}
          oninput={(e) => control(position, { flames: e.currentTarget.value })}
        />
      </div>
    {/each}
  </div>
{:else if open === "more"}
  {@render more()}
{/if}
