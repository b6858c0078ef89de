<script lang="ts">
  import type { Schema } from "../api/client";
  import NumberField from "../components/NumberField.svelte";
  import type { Level, VisitState } from "../service/visit.svelte";
  import { tables } from "../tables.svelte";

  interface Props {
    visit: VisitState;
    level: Level;
    errors: (field: string) => string[];
  }
  let { visit, level, errors }: Props = $props();

  type HotTest = Schema["HotTest"];
  const saver = $derived(visit.steps["hot-test"]!);
  const test = $derived<HotTest>(saver.value.hotTest ?? { readings: [] });
  const worst = $derived<Schema["WorstCase"]>(test.fans ?? {});
  const controls = $derived(test.controls ?? []);
  const positions = ["open", "half", "closed"] as const;
  const measuredCold = $derived(visit.steps["cold-checks"]!.value.coldChecks);
  const reading = $derived(test.readings.find((r) => r.level === level));

  function set(change: Partial<HotTest>) {
    saver.value.hotTest = { ...test, ...change };
    saver.changed();
  }

  function control(position: string, change: Partial<Schema["ControlReading"]>) {
    const found = controls.find((c) => c.position === position) ?? { position };
    set({ controls: [...controls.filter((c) => c.position !== position), { ...found, ...change }] });
  }

  const fields: { field: keyof Schema["WorstCase"]; label: string; last: number | null | undefined }[] = $derived([
    { field: "roomOffPa", label: "Room, all off", last: measuredCold?.roomOffPa },
    { field: "roomOnPa", label: "Room, all on", last: measuredCold?.roomOnPa },
    { field: "draftOffPa", label: "Draft, all off", last: reading?.draftPa },
    { field: "draftOnPa", label: "Draft, all on", last: undefined },
  ]);
</script>

<details class="mb-1" open={test.window?.draftPa != null}>
  <summary class="text-quiet cursor-pointer py-1 text-sm">Window test</summary>
  <div class="grid grid-cols-2 gap-x-4 max-sm:grid-cols-1">
    <NumberField
      id="windowPa"
      label="Draft with a window open"
      quantity="draft"
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
</details>
<details class="mb-1" open={test.fans != null}>
  <summary class="text-quiet cursor-pointer py-1 text-sm">Fans test: everything off, everything on</summary>
  <div class="grid grid-cols-2 gap-x-4 max-sm:grid-cols-1">
    {#each fields as f (f.field)}
      <NumberField
        id={f.field}
        label={f.label}
        quantity="draft"
        value={worst[f.field] ?? null}
        last={f.last}
        lastWord="read before"
        errors={errors(`fans.${f.field}`)}
        disabled={!visit.writable}
        onchange={(value) => set({ fans: { ...worst, [f.field]: value } })}
      />
    {/each}
  </div>
</details>
<details class="mb-1" open={controls.length > 0}>
  <summary class="text-quiet cursor-pointer py-1 text-sm">Air control: open, half, closed</summary>
  <div class="grid grid-cols-3 gap-x-4 max-sm:grid-cols-1">
    {#each positions as position (position)}
      {@const at = controls.find((c) => c.position === position)}
      <div>
        <NumberField
          id="control-{position}"
          label="Draft, control {position}"
          quantity="draft"
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
  {#if controls.filter((c) => c.draftPa != null).length > 1}
    {@const open = controls.find((c) => c.position === "open")?.draftPa}
    {@const closed = controls.find((c) => c.position === "closed")?.draftPa}
    {#if open != null && closed != null}
      <p class="text-sm">
        From open to closed the draft goes from <span class="measured">{tables.show(open, "draft")}</span> to
        <span class="measured">{tables.show(closed, "draft")}</span>.
      </p>
    {/if}
  {/if}
</details>
