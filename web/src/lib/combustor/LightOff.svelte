<script lang="ts">
  import type { Schema } from "../api/client";
  import { scaleLinear } from "d3-scale";
  import { line } from "d3-shape";
  import { clock } from "../clock";
  import Choices from "../components/Choices.svelte";
  import NumberField from "../components/NumberField.svelte";
  import Axis from "../drawing/Axis.svelte";
  import { live } from "../instruments/live.svelte";
  import { tables } from "../tables.svelte";
  import Reckoning from "../visits/Reckoning.svelte";
  import type { Step, VisitState } from "../visits/visit.svelte";

  let { visit, step }: { visit: VisitState; step: Step } = $props();

  type Check = Schema["LightOffTest"];
  const station = $derived(visit.station<Check, Schema["LightOffTestAnswer"]>(step.code, "light-off")!);
  const check = $derived(station.entry);
  const answer = $derived(station.answer);
  const set = (change: Partial<Check>) => station.set(change);
  $effect(() => station.reckon(undefined, true));

  const yesNo = [
    { code: "yes", name: "Yes" },
    { code: "no", name: "No" },
  ] as const;
  const samples = $derived(
    (check.series ?? []).flatMap((s) =>
      s?.minute == null || s.probeC == null ? [] : [{ minute: s.minute, probeC: s.probeC }],
    ),
  );

  // The watch is a moment: it runs on behind a locked screen and over a reload.
  const key = $derived(`grate.light-off.${visit.id}`);
  let since = $state<number | null>(null);
  let now = $state(clock.now());
  let probeC = $state<number | null>(null);
  $effect(() => {
    const kept = localStorage.getItem(key);
    since = kept ? Number(kept) : null;
  });
  $effect(() => {
    if (since === null) return;
    const timer = setInterval(() => (now = clock.now()), 500);
    return () => clearInterval(timer);
  });
  const minute = $derived(since === null ? 0 : Math.max(0, Math.floor((now - since) / 60000)));

  function keep(next: number | null) {
    since = next;
    now = clock.now();
    if (next === null) localStorage.removeItem(key);
    else localStorage.setItem(key, String(next));
  }
  function start() {
    set({ series: [], topClear: null });
    keep(clock.now());
  }
  function add(celsius: number) {
    const others = samples.filter((s) => s.minute !== minute);
    set({ series: [...others, { minute, probeC: celsius }].sort((a, b) => a.minute - b.minute) });
  }
  function take(event: Event) {
    event.preventDefault();
    if (probeC === null) return;
    add(probeC);
    probeC = null;
  }
  // A thermometer that is connected is read once a minute, until the test has ended by itself.
  $effect(() => {
    if (since === null || !visit.writable) return;
    if (live.has("flueC") && !samples.some((s) => s.minute === minute)) add(live.values["flueC"]!);
    if (answer?.over && samples.some((s) => s.minute === minute)) keep(null);
  });

  const shown = (c: number) => tables.shown(c, "temperature");
  const x = $derived(scaleLinear([0, Math.max(10, ...samples.map((s) => s.minute))], [48, 350]));
  const y = $derived(
    scaleLinear(
      [
        shown(Math.min(...samples.map((s) => s.probeC)) - 20),
        shown(Math.max(answer?.goalC ?? 0, ...samples.map((s) => s.probeC)) + 20),
      ],
      [160, 10],
    ).nice(4),
  );
  const curve = $derived(
    line<{ minute: number; probeC: number }>(
      (s) => x(s.minute),
      (s) => y(shown(s.probeC)),
    )(samples) ?? "",
  );
</script>

<section aria-labelledby="light-off">
  <h3 id="light-off" class="sr-only">Light-off</h3>
  <div class="grid grid-cols-2 gap-3">
    <button
      type="button"
      class="btn h-auto min-h-20 text-lg {since === null && samples.length === 0 ? 'btn-primary' : ''}"
      disabled={!visit.writable || since !== null}
      onclick={start}>{samples.length ? "Bypass closed, once more" : "Bypass closed"}</button
    >
    <div
      class="border-base-300 flex flex-col items-center justify-center rounded-lg border"
      role="timer"
      aria-label="Watch"
    >
      {#if since !== null}
        <span class="measured text-2xl" data-minute>{minute} min</span>
        <button type="button" class="btn btn-ghost btn-sm min-h-11" onclick={() => keep(null)}>End it</button>
      {:else}
        <span class="text-quiet text-center text-sm">The watch runs on when the screen is locked.</span>
      {/if}
    </div>
  </div>
  {#if since !== null && visit.writable}
    <form class="mt-3 flex flex-wrap items-end gap-3" onsubmit={take}>
      {#key samples.length}
        <NumberField
          id="light-off-probeC"
          label="Probe now"
          quantity="temperature"
          value={probeC}
          compact
          onchange={(value) => (probeC = value)}
        />
      {/key}
      <button class="btn min-h-11" disabled={probeC === null}>Keep for minute {minute}</button>
      {#if live.has("flueC")}<span class="text-quiet pb-3 text-sm">The thermometer is read every minute.</span>{/if}
    </form>
  {/if}
  {#if samples.length}
    <svg
      viewBox="0 0 360 190"
      class="mt-3 w-full max-w-xl"
      role="img"
      aria-label="Probe over the minutes since the bypass was closed"
    >
      <Axis scale={y} ticks={4} from={44} to={350} />
      <Axis scale={x} ticks={5} numbers="below" from={10} to={160} />
      {#if answer?.goalC != null}
        <path
          d="M{x(0)} {y(shown(answer.result!.closedAtC))} L{x(10)} {y(shown(answer.goalC))}"
          class="stroke-secondary fill-none"
          stroke-dasharray="6 3"
          stroke-width="2"
        />
        <text x={x(10) - 4} y={y(shown(answer.goalC)) - 8} text-anchor="end" class="computed fill-secondary text-[12px]"
          >{tables.show(answer.goalC, "temperature")}</text
        >
      {/if}
      <path d={curve} class="stroke-primary fill-none" stroke-width="2.5" />
      {#each samples as s (s.minute)}<circle
          cx={x(s.minute)}
          cy={y(shown(s.probeC))}
          r="3.5"
          class="fill-primary"
        />{/each}
      <text x="350" y="186" text-anchor="end" class="fill-quiet text-[11px]">min</text>
    </svg>
    <ul class="mt-1 flex flex-wrap gap-2 text-sm" aria-label="Samples">
      {#each samples as s (s.minute)}
        <li class="border-base-300 flex items-center rounded-lg border pl-2">
          {s.minute} min <span class="measured ml-2">{tables.show(s.probeC, "temperature")}</span>
          <button
            type="button"
            class="btn btn-ghost btn-sm min-h-11"
            aria-label="Take away minute {s.minute}"
            disabled={!visit.writable}
            onclick={() => set({ series: samples.filter((other) => other.minute !== s.minute) })}>×</button
          >
        </li>
      {/each}
    </ul>
  {/if}
  {#each station.refusals as sentence, n (n)}<p class="text-error text-sm">{sentence}</p>{/each}
  <div class="mt-3 flex flex-wrap gap-x-6 gap-y-3">
    <div>
      <span class="text-quiet mb-1 block text-sm">A good fire on coals</span>
      <Choices
        label="A good fire on coals"
        options={yesNo}
        value={check.goodFire === false ? "no" : "yes"}
        disabled={!visit.writable}
        onchange={(word) => set({ goodFire: word === "yes" })}
      />
    </div>
    <div>
      <span class="text-quiet mb-1 block text-sm">Top of the chimney cleared</span>
      <Choices
        label="Top of the chimney cleared"
        options={yesNo}
        value={check.topClear == null ? null : check.topClear ? "yes" : "no"}
        disabled={!visit.writable}
        onchange={(word) => set({ topClear: word === "yes" })}
      />
    </div>
  </div>
  <Reckoning reckoner={station.reckoner} assumed={answer?.assumed ?? []} />
</section>
