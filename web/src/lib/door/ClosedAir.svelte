<script lang="ts">
  import type { Schema } from "../api/client";
  import Choices from "../components/Choices.svelte";
  import NumberField from "../components/NumberField.svelte";
  import Reckoning from "../visits/Reckoning.svelte";
  import type { Step, VisitState } from "../visits/visit.svelte";

  let { visit, step }: { visit: VisitState; step: Step } = $props();

  type Test = Schema["ClosedAirTest"];
  const station = $derived(visit.station<Test, Schema["ClosedAirTestAnswer"]>(step.code, "closed-air")!);
  const test = $derived(station.entry);
  const { errors } = $derived(station);
  const set = (change: Partial<Test>) => station.set(change);
  $effect(() => station.reckon());

  // The watch is a moment, not a counter: it runs on behind a locked screen and over a reload.
  interface Watch {
    of: "collapseS" | "reviveS";
    since: number;
  }
  const key = $derived(`grate.watch.${visit.id}`);
  let watch = $state<Watch | null>(null);
  let now = $state(Date.now());
  $effect(() => {
    const kept = localStorage.getItem(key);
    watch = kept ? (JSON.parse(kept) as Watch) : null;
  });
  $effect(() => {
    if (!watch) return;
    const timer = setInterval(() => (now = Date.now()), 250);
    return () => clearInterval(timer);
  });
  const seconds = $derived(watch ? Math.max(0, Math.round((now - watch.since) / 1000)) : 0);

  function keep(next: Watch | null) {
    watch = next;
    now = Date.now();
    if (next) localStorage.setItem(key, JSON.stringify(next));
    else localStorage.removeItem(key);
  }
  const start = (of: Watch["of"]) => keep({ of, since: Date.now() });
  function stop() {
    if (!watch) return;
    now = Date.now();
    set({ [watch.of]: Math.min(3600, Math.round((now - watch.since) / 1000)) });
    keep(null);
  }
</script>

<section aria-labelledby="closed-air">
  <h3 id="closed-air" class="sr-only">Air shut</h3>
  <div class="grid grid-cols-2 gap-3">
    <button
      type="button"
      class="btn h-auto min-h-24 text-lg {watch?.of === 'collapseS' ? 'btn-primary' : ''}"
      disabled={!visit.writable || watch?.of === "reviveS"}
      onclick={() => (watch ? stop() : start("collapseS"))}
      >{watch?.of === "collapseS" ? "Flames gone" : "Air shut"}</button
    >
    <button
      type="button"
      class="btn h-auto min-h-24 text-lg {watch?.of === 'reviveS' ? 'btn-primary' : ''}"
      disabled={!visit.writable || watch?.of === "collapseS"}
      onclick={() => (watch ? stop() : start("reviveS"))}
      >{watch?.of === "reviveS" ? "Flames back" : "Air opened"}</button
    >
  </div>
  <p class="mt-2 flex min-h-11 items-center gap-3" role="timer" aria-label="Watch" data-watch>
    {#if watch}
      <span class="measured text-2xl">{seconds} s</span>
      <span class="text-quiet">since the air was {watch.of === "collapseS" ? "shut" : "opened"}</span>
      <button type="button" class="btn btn-ghost btn-sm ml-auto min-h-11" onclick={() => keep(null)}
        >Stop without it</button
      >
    {:else}
      <span class="text-quiet">The watch runs on when the screen is locked.</span>
    {/if}
  </p>
  <div class="mt-4 text-sm">
    <Choices
      label="How far this stove's air closes"
      options={[
        { code: "fully", name: "Closes fully" },
        { code: "not", name: "Keeps some air" },
      ]}
      value={(test.closesFully ?? station.answer?.closesFully ?? true) ? "fully" : "not"}
      disabled={!visit.writable}
      onchange={(closes) => set({ closesFully: closes === "fully" })}
    />
  </div>
  <div class="mt-4 grid grid-cols-2 gap-x-4 gap-y-4 max-sm:grid-cols-1">
    {#each [{ field: "collapseS", label: "Seconds until the flames were gone" }, { field: "reviveS", label: "Seconds until they were back" }] as const as time (time.field)}
      <NumberField
        id={time.field}
        label={time.label}
        quantity="count"
        value={test[time.field] ?? null}
        last={(station.earlier as Test | null)?.[time.field] ?? null}
        errors={errors(time.field)}
        disabled={!visit.writable}
        onchange={(value) => set({ [time.field]: value })}
      />
    {/each}
  </div>
  <Reckoning reckoner={station.reckoner} assumed={station.answer?.assumed ?? []} />
</section>
