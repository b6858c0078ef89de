<script lang="ts">
  import { scaleLinear } from "d3-scale";
  import type { Schema } from "../api/client";
  import Choices from "../components/Choices.svelte";
  import NumberField from "../components/NumberField.svelte";
  import Tick from "../components/Tick.svelte";
  import { tables } from "../tables.svelte";
  import Reckoning from "../visits/Reckoning.svelte";
  import type { Step, VisitState } from "../visits/visit.svelte";

  let { visit, step }: { visit: VisitState; step: Step } = $props();

  type Check = Schema["WoodPileCheck"];
  const station = $derived(visit.station<Check, Schema["WoodPileAnswer"]>(step.code, "wood-pile")!);
  const check = $derived(station.entry);
  const answer = $derived(station.answer);
  const { errors } = $derived(station);
  const set = (change: Partial<Check>) => station.set(change);
  $effect(() => station.reckon(undefined, true));

  const [width, height] = [520, 150];
  const curve = $derived(answer?.curve ?? []);
  const x = $derived(scaleLinear([0, curve.at(-1)?.month ?? 24], [44, width - 12]));
  const y = $derived(scaleLinear([0, Math.max(0.3, ...curve.map((p) => p.meterShare))], [height - 26, 8]));
  const path = $derived(curve.map((p, i) => `${i ? "L" : "M"}${x(p.month)} ${y(p.meterShare)}`).join(""));
</script>

<section aria-labelledby="wood-pile">
  <h3 id="wood-pile" class="sr-only">The stack</h3>
  <div class="flex flex-wrap gap-3">
    <Choices
      label="How fast it dries"
      options={tables.words("seasoningClass")}
      value={check.class ?? null}
      disabled={!visit.writable}
      onchange={(kind) => set({ class: kind as Check["class"] })}
    />
  </div>
  <div class="mt-2 flex flex-wrap gap-x-6">
    <Tick
      label="Under cover"
      checked={check.covered ?? true}
      disabled={!visit.writable}
      onchange={(covered) => set({ covered })}
    />
    <Tick
      label="In rounds, not split"
      checked={check.rounds ?? false}
      disabled={!visit.writable}
      onchange={(rounds) => set({ rounds })}
    />
  </div>
  <div class="mt-3 max-w-xs">
    <NumberField
      id="stackedM3"
      label="Stacked for this stove"
      quantity="stacked-volume"
      value={check.stackedM3 ?? null}
      errors={errors("stackedM3")}
      disabled={!visit.writable}
      onchange={(stackedM3) => set({ stackedM3 })}
    />
  </div>
  {#if curve.length}
    <svg
      viewBox="0 0 {width} {height}"
      class="mt-4 w-full"
      role="img"
      aria-label="What a dry-basis meter will show: {tables.show(curve[0]!.meterShare, 'share')} now, {tables.show(
        curve[12]!.meterShare,
        'share',
      )} in a year"
    >
      {#each [0.1, 0.2, 0.3, 0.4] as share (share)}
        {#if share < y.domain()[1]!}
          <path d="M44 {y(share)} H{width - 12}" class="stroke-base-300" stroke-dasharray="2 4" />
          <text x="38" y={y(share) + 4} text-anchor="end" class="fill-quiet text-[11px]"
            >{tables.show(share, "share")}</text
          >
        {/if}
      {/each}
      {#each [0, 6, 12, 18, 24] as month (month)}
        <text x={x(month)} y={height - 8} text-anchor="middle" class="fill-quiet text-[11px]"
          >{month === 0 ? "now" : `${month} months`}</text
        >
      {/each}
      <path d="M44 {y(answer!.dryShare)} H{width - 12}" class="stroke-base-content" stroke-width="1.5" />
      <path d={path} class="stroke-computed fill-none" stroke-width="3" />
    </svg>
    <p class="text-quiet text-sm">What a meter of the dry basis will show; the line is dry enough.</p>
  {/if}
</section>
<Reckoning reckoner={station.reckoner} assumed={answer?.assumed ?? []} />
