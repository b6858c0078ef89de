<script lang="ts">
  import type { Schema } from "../api/client";
  import Choices from "../components/Choices.svelte";
  import Mark from "../components/Mark.svelte";
  import { tables } from "../tables.svelte";
  import Reckoning from "../visits/Reckoning.svelte";
  import type { Step, VisitState } from "../visits/visit.svelte";

  let { visit, step }: { visit: VisitState; step: Step } = $props();

  type Look = Schema["DoorLook"];
  const station = $derived(visit.station<Look, Schema["DoorLookAnswer"]>(step.code, "door-look")!);
  const look = $derived(station.entry);
  const { errors } = $derived(station);
  const set = (change: Partial<Look>) => station.set(change);
  $effect(() => station.reckon(undefined, true));

  const hasGlass = $derived(step.marks.some((m) => m.code === "glass"));
  const decided = $derived(station.answer?.parts ?? []);
  // What is unsafe stops the stove by itself: its stop needs no second one.
  const open = $derived(
    decided.filter((p) => p.condition !== "unsafe" && visit.conditionIn(step.code, p.part) !== p.condition),
  );

  type Signs = "ropeSigns" | "glass";
  function toggle(field: Signs, code: string) {
    const signs: string[] = look[field] ?? [];
    set({ [field]: signs.includes(code) ? signs.filter((s) => s !== code) : [...signs, code] });
  }
</script>

{#snippet signs(field: Signs, label: string, none: string, words: Schema["Named"][])}
  <div class="flex flex-wrap gap-2" role="group" aria-label={label}>
    <button
      type="button"
      class="btn btn-sm min-h-11 {look[field]?.length === 0 ? 'outline-base-content font-bold outline-2' : ''}"
      aria-pressed={look[field]?.length === 0}
      disabled={!visit.writable}
      onclick={() => set({ [field]: [] })}>{none}</button
    >
    {#each words as word (word.code)}
      {@const seen = (look[field] ?? []).some((s) => s === word.code)}
      <button
        type="button"
        class="btn btn-sm min-h-11 {seen ? 'outline-base-content font-bold outline-2' : ''}"
        aria-pressed={seen}
        disabled={!visit.writable}
        onclick={() => toggle(field, word.code)}>{word.name}</button
      >
    {/each}
  </div>
  {#each errors(field) as sentence (sentence)}<p class="text-error text-sm">{sentence}</p>{/each}
{/snippet}

<section aria-labelledby="door-look">
  <h3 id="door-look" class="sr-only">Look at the door</h3>
  <div class="grid grid-cols-[6rem_1fr] items-start gap-x-3 gap-y-4 text-sm max-sm:grid-cols-1">
    <span class="text-quiet sm:pt-3">Rope</span>
    <div class="space-y-2">
      <Choices
        label="State of the rope"
        options={tables.words("ropeState")}
        value={look.rope ?? null}
        disabled={!visit.writable}
        onchange={(rope) => set({ rope: rope as Look["rope"] })}
      />
      {@render signs("ropeSigns", "What else is on the rope", "Nothing else", tables.words("ropeSign"))}
    </div>
    <span class="text-quiet sm:pt-3">Latch</span>
    <div>
      <Choices
        label="Travel of the latch"
        options={tables.words("latchTravel")}
        value={look.latch ?? null}
        disabled={!visit.writable}
        onchange={(latch) => set({ latch: latch as Look["latch"] })}
      />
    </div>
    <span class="text-quiet sm:pt-3">Hinges</span>
    <div>
      <Choices
        label="Play of the hinges"
        options={tables.words("hingePlay")}
        value={look.hinge ?? null}
        disabled={!visit.writable}
        onchange={(hinge) => set({ hinge: hinge as Look["hinge"] })}
      />
    </div>
    {#if hasGlass}
      <span class="text-quiet sm:pt-3">Glass</span>
      <div>
        {@render signs("glass", "What is on the glass", "Whole, sits firm", tables.words("glassSign"))}
      </div>
    {/if}
  </div>
  <Reckoning reckoner={station.reckoner} assumed={[]}>
    {#snippet more()}
      {#if decided.length}
        <ul class="mt-2 flex flex-wrap gap-x-5 gap-y-1" aria-label="Words decided">
          {#each decided as part (part.part)}
            <li>
              <span class="font-semibold">{part.name}</span>
              <Mark condition={part.condition} />
              {tables.word("condition", part.condition)}
            </li>
          {/each}
        </ul>
        {#if open.length && visit.writable}
          <button
            type="button"
            class="btn btn-sm mt-2 min-h-11"
            onclick={() => open.forEach((p) => visit.mark(step.code, p.part, p.condition))}
            >Mark {open.map((p) => p.name).join(", ")} so</button
          >
        {/if}
      {/if}
    {/snippet}
  </Reckoning>
</section>
