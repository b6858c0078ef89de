<script lang="ts">
  import type { Schema } from "../api/client";
  import NumberField from "../components/NumberField.svelte";
  import Tick from "../components/Tick.svelte";
  import Reckoning from "../visits/Reckoning.svelte";
  import type { Step, VisitState } from "../visits/visit.svelte";

  /** What it was, named with its proof: the firm learns from it once the visit is signed. */
  let { visit, step }: { visit: VisitState; step: Step } = $props();
  const station = $derived(visit.station<Schema["CauseFound"], Schema["CauseAnswer"]>(step.code, "cause")!);
  $effect(() => station.reckon(undefined, true));

  const shown = 8;
  let all = $state(false);
  const causes = $derived(station.entry.causes ?? []);
  // What was named stays in sight, however unlikely it is by now.
  const offered = $derived(
    (station.answer?.offered ?? []).filter((c, i) => all || i < shown || causes.includes(c.cause)),
  );
  const set = (cause: string, on: boolean) =>
    station.set({
      causes: on ? [...causes, cause] : causes.filter((c) => c !== cause),
      ...(on ? { outside: null } : {}),
    });
</script>

<section aria-labelledby="cause" aria-busy={!station.answer && !station.reckoner.away}>
  <h3 id="cause">What it was</h3>
  <ul class="mt-2">
    {#each offered as c (c.cause)}
      <li class="flex items-center justify-between gap-3">
        <Tick
          label={c.wrong}
          checked={causes.includes(c.cause)}
          disabled={!visit.writable}
          onchange={(on) => set(c.cause, on)}
        />
        <span class="computed">{c.percent} %</span>
      </li>
    {/each}
  </ul>
  {#if (station.answer?.offered.length ?? 0) > shown}
    <button type="button" class="btn btn-ghost btn-sm min-h-11" onclick={() => (all = !all)}
      >{all ? "The likeliest alone" : `All ${station.answer!.offered.length}`}</button
    >
  {/if}
  <Tick
    label="Something outside this list"
    checked={station.entry.outside === true}
    disabled={!visit.writable}
    onchange={(on) => station.set(on ? { outside: true, causes: [] } : { outside: null })}
  />
  <NumberField
    id="cause-minutes"
    label="Minutes until it was known"
    quantity="count"
    compact
    value={station.entry.minutes ?? null}
    disabled={!visit.writable}
    errors={station.errors("minutes")}
    onchange={(minutes) => station.set({ minutes })}
  />
  {#each station.refusals as sentence, n (n)}<p class="text-error text-sm">{sentence}</p>{/each}
  <Reckoning reckoner={station.reckoner} assumed={[]} />
</section>
