<script lang="ts">
  import type { Snippet } from "svelte";
  import type { Schema } from "../api/client";
  import Tick from "../components/Tick.svelte";
  import { minuteOf, timeOf, type Against, type Plan } from "./plan";

  /** Who, when and how long: of a visit that is moved, and of a call that becomes one. */
  interface Props {
    plan: Plan;
    technicians: Schema["Technician"][];
    today: string;
    /** What stands against it; asked back once where it is only unusual. */
    refused: Against | null;
    word: string;
    /** Whether somebody plans for themselves alone. */
    own?: boolean;
    /** What else can be done. */
    children?: Snippet;
    onchange: (plan: Plan) => void;
    onplan: (despite: boolean) => void;
  }
  let { plan, technicians, today, refused, word, own = false, children, onchange, onplan }: Props = $props();
  const set = (change: Partial<Plan>) => onchange({ ...plan, ...change });

  const shift = (minutes: number) =>
    set({ time: timeOf(Math.min(22 * 60, Math.max(5 * 60, minuteOf(plan.time) + minutes))) });
</script>

<form
  class="flex flex-wrap items-end gap-3"
  onsubmit={(e) => {
    e.preventDefault();
    onplan(false);
  }}
>
  <label class="text-quiet text-sm"
    >Who
    <select
      class="select flex min-h-11 w-44"
      disabled={own}
      value={plan.technicianId}
      onchange={(e) =>
        set({
          technicianId: e.currentTarget.value,
          ...(plan.helpers ? { helpers: plan.helpers.filter((h) => h !== e.currentTarget.value) } : {}),
        })}
    >
      {#each technicians as t (t.id)}<option value={t.id}>{t.name}</option>{/each}
    </select></label
  >
  <label class="text-quiet text-sm"
    >Day <input
      type="date"
      class="input flex min-h-11 w-40"
      min={today}
      required
      value={plan.day}
      onchange={(e) => set({ day: e.currentTarget.value })}
    /></label
  >
  <div class="flex flex-wrap items-end gap-1">
    <button type="button" class="btn min-h-11" onclick={() => shift(-15)}>Earlier</button>
    <label class="text-quiet text-sm"
      >Time <input
        type="time"
        class="input flex min-h-11 w-32"
        required
        value={plan.time}
        onchange={(e) => set({ time: e.currentTarget.value })}
      /></label
    >
    <button type="button" class="btn min-h-11" onclick={() => shift(15)}>Later</button>
  </div>
  <label class="text-quiet text-sm"
    >Minutes <input
      type="number"
      class="input flex min-h-11 w-24"
      min="15"
      max="600"
      step="5"
      required
      value={plan.minutes}
      onchange={(e) => set({ minutes: e.currentTarget.valueAsNumber })}
    /></label
  >
  {#if plan.helpers && technicians.length > 1}
    <div class="flex w-full flex-wrap gap-x-4" role="group" aria-label="Who goes with them">
      <span class="text-quiet self-center text-sm">With</span>
      {#each technicians.filter((t) => t.id !== plan.technicianId) as t (t.id)}
        <Tick
          label={t.name}
          checked={plan.helpers.includes(t.id)}
          onchange={(on) => set({ helpers: on ? [...plan.helpers!, t.id] : plan.helpers!.filter((h) => h !== t.id) })}
        />
      {/each}
    </div>
  {/if}
  {#if refused?.ask}
    <p role="alert" class="border-primary w-full border-l-4 pl-3">{refused.sentences.join(" ")}</p>
    <button type="button" class="btn btn-primary min-h-11" onclick={() => onplan(true)}
      >Yes, {word.toLowerCase()}</button
    >
  {:else}
    <button class="btn btn-primary min-h-11">{word}</button>
  {/if}
  {@render children?.()}
  {#if refused && !refused.ask}
    {#each refused.sentences as sentence, n (n)}<p role="alert" class="text-error w-full text-sm">
        {sentence}
      </p>{/each}
  {/if}
</form>
