<script lang="ts">
  import Axis from "../drawing/Axis.svelte";
  import { scaleBand, scaleLinear } from "d3-scale";
  import type { Schema } from "../api/client";
  import { day, monthOf, onScale } from "../dates";

  interface Props {
    weeks: Schema["SeasonWeek"][];
    overdue: Schema["WeekRow"];
    /** Monday of the week that is picked; null for all. */
    picked: string | null;
    onpick: (monday: string | null) => void;
  }
  let { weeks, overdue, picked, onpick }: Props = $props();

  const width = 1100;
  const height = 210;
  const x = $derived(
    scaleBand(
      weeks.map((w) => w.monday),
      [48, width - 4],
    ).padding(0.18),
  );
  const hours = (minutes: number) => minutes / 60;
  const most = $derived(Math.max(...weeks.map((w) => Math.max(w.capacityMinutes, w.plannedMinutes + w.dueMinutes))));
  const y = $derived(scaleLinear([0, hours(most)], [height - 30, 10]).nice(4));
  const capacity = $derived(weeks[0]?.capacityMinutes ?? 0);
  const month = (monday: string) => monthOf(new Date(onScale(monday))).slice(0, 3);
  // A month is named at its first Monday.
  const named = $derived(weeks.filter((w) => Number(w.monday.slice(8)) <= 7));

  function say(w: Schema["SeasonWeek"], first: boolean) {
    const late = first && overdue.visits ? `, ${overdue.visits} of them overdue` : "";
    return `Week of ${day(w.monday)}: ${w.dueVisits} due${late}, ${hours(w.plannedMinutes).toFixed(0)} h planned and ${hours(w.dueMinutes).toFixed(0)} h due against ${hours(w.capacityMinutes).toFixed(0)} h${w.overloaded ? ", overloaded" : ""}`;
  }
</script>

<svg viewBox="0 0 {width} {height}" class="w-full max-sm:min-w-180" role="group" aria-label="Load by week">
  <defs>
    <pattern id="over" width="6" height="6" patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
      <path d="M0 0 V6" class="stroke-base-content" stroke-width="4" />
    </pattern>
  </defs>
  <Axis scale={y} ticks={4} from={44} to={width} unit=" h" />
  {#each weeks as w, i (w.monday)}
    {@const planned = hours(w.plannedMinutes)}
    {@const load = planned + hours(w.dueMinutes)}
    {@const left = x(w.monday)!}
    <g
      role="button"
      tabindex={picked === w.monday || (picked === null && i === 0) ? 0 : -1}
      aria-pressed={picked === w.monday}
      aria-label={say(w, i === 0)}
      data-week={w.monday}
      class="cursor-pointer"
      onclick={() => onpick(picked === w.monday ? null : w.monday)}
      onkeydown={(e) => (e.key === "Enter" || e.key === " ") && onpick(picked === w.monday ? null : w.monday)}
    >
      <title>{say(w, i === 0)}</title>
      <rect
        x={left - 2}
        y="4"
        width={x.bandwidth() + 4}
        height={height - 34}
        rx="3"
        class={picked === w.monday ? "fill-base-300" : "fill-transparent"}
      />
      <rect
        x={left}
        y={y(load)}
        width={x.bandwidth()}
        height={y(planned) - y(load)}
        class="fill-secondary"
        opacity="0.55"
      />
      <rect x={left} y={y(planned)} width={x.bandwidth()} height={y(0) - y(planned)} class="fill-base-content" />
      {#if w.overloaded}
        <rect
          x={left}
          y={y(load)}
          width={x.bandwidth()}
          height={y(hours(w.capacityMinutes)) - y(load)}
          fill="url(#over)"
        />
      {/if}
    </g>
  {/each}
  <path
    d="M44 {y(hours(capacity))} H{width}"
    class="stroke-base-content fill-none"
    stroke-width="1.5"
    stroke-dasharray="6 4"
  />
  <text x={width - 6} y={y(hours(capacity)) - 5} text-anchor="end" class="fill-base-content text-[12px]"
    >what the firm can do</text
  >
  {#each named as w (w.monday)}
    <text x={x(w.monday)!} y={height - 12} class="fill-quiet text-[12px]">{month(w.monday)}</text>
  {/each}
</svg>
<p class="text-quiet flex flex-wrap gap-x-5 text-sm">
  <span><span class="bg-base-content inline-block size-3" aria-hidden="true"></span> planned</span>
  <span><span class="bg-secondary inline-block size-3 opacity-55" aria-hidden="true"></span> due, not planned</span>
  <span
    ><svg viewBox="0 0 12 12" class="inline-block size-3" aria-hidden="true"
      ><rect width="12" height="12" fill="url(#over)" /></svg
    > more than can be done</span
  >
</p>
