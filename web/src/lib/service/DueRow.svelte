<script lang="ts">
  import type { Schema } from "../api/client";
  import Mark from "../components/Mark.svelte";
  import { day } from "../dates";
  import { tables } from "../tables.svelte";
  import PlanVisit from "./PlanVisit.svelte";

  interface Props {
    due: Schema["DueAnswerLine"];
    technicians: Schema["Technician"][];
    today: string;
    onplanned: (what: string) => void;
  }
  let { due, technicians, today, onplanned }: Props = $props();

  let planning = $state(false);
  const line = $derived(due.line);
  const late = $derived(line.byDay < today);
</script>

<li class="border-base-300 border-b py-2" data-due={line.applianceId}>
  <div class="grid grid-cols-[11rem_minmax(0,1fr)_auto] items-baseline gap-x-4 max-sm:grid-cols-1">
    <div>
      <span class="computed">{day(line.byDay)}</span>
      <span class="text-quiet block text-sm"
        >{line.urgent
          ? "the stop stands since"
          : `${late ? "overdue, " : ""}${day(line.earliest).slice(0, -5)} to ${day(line.latest)}`}</span
      >
    </div>
    <div>
      <p>
        {#if line.urgent}<Mark condition="unsafe" />{/if}
        <a
          class="link pointer-coarse:inline-flex pointer-coarse:min-h-11 pointer-coarse:items-center font-semibold"
          href="/stoves/{line.applianceId}">{line.street}, {line.place}</a
        >
        <span class="text-quiet"
          >{line.customer} · {tables.kindName(line.kind, line.combustor)}, {tables.show(line.woodKg, "wood")} a year</span
        >
      </p>
      {#each due.tasks as task, i (i)}<p class="text-sm {task.kind === 'stop' ? 'text-error' : ''}">
          {task.reason}
        </p>{/each}
    </div>
    <div class="flex items-center gap-3">
      <span class="computed">{line.minutes} min</span>
      {#if !planning}<button class="btn btn-sm" onclick={() => (planning = true)}>Plan a visit</button>{/if}
    </div>
  </div>
  {#if planning}
    <PlanVisit
      {line}
      {technicians}
      {today}
      onplanned={(date) => onplanned(`${line.street} is planned for ${day(date)}.`)}
      oncancel={() => (planning = false)}
    />
  {/if}
</li>
