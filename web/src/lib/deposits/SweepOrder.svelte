<script lang="ts">
  import type { Schema } from "../api/client";
  import { tables } from "../tables.svelte";

  interface Props {
    plan: Schema["SweepPlan"];
    done: string[];
    errors: string[];
    disabled: boolean;
    onchange: (done: string[]) => void;
  }
  let { plan, done, errors, disabled, onchange }: Props = $props();

  const missing = (task: Schema["SweepTask"]) => task.needs.filter((need) => !done.includes(need));
  const name = (code: string) => plan.order.find((t) => t.code === code)?.name ?? code;

  // What needs a task that is taken back is taken back with it.
  function tick(code: string, checked: boolean) {
    if (checked) return onchange([...done, code]);
    let left = done.filter((d) => d !== code);
    for (const task of plan.order) {
      if (task.needs.some((need) => !left.includes(need))) left = left.filter((d) => d !== task.code);
    }
    onchange(left);
  }
</script>

<section aria-labelledby="sweep-order">
  <h3 id="sweep-order" class="mt-7 mb-2">The sweep, in its order</h3>
  <p>
    <span class="computed">{plan.brushes.join(", ")}</span>, <span class="computed">{plan.rods} rods</span>,
    {plan.from}.
    {plan.bends === 0 ? "No bend" : plan.bends === 1 ? "One bend" : `${plan.bends} bends`}; {plan.openings.join(", ") ||
      "nothing to open"}.
  </p>
  <p>
    {#if plan.minutes == null}
      Glaze: time and price by its own quote.
    {:else if plan.learnedFrom}
      About <span class="computed">{plan.minutes.toFixed(0)} min</span>: median of your last {plan.learnedFrom} timed sweeps
      of this kind{plan.ruleMinutes == null ? "" : `; by the rule ${plan.ruleMinutes.toFixed(0)}`}.
    {:else}
      About <span class="computed">{plan.minutes.toFixed(0)} min</span>, by the rule ({tables
        .word("mark", "assumption")
        .toLowerCase()}).
    {/if}
  </p>
  <ol class="border-base-300 mt-1 border-t">
    {#each plan.order as task (task.code)}
      {@const waits = missing(task)}
      {@const ticked = done.includes(task.code)}
      <li class="border-base-300 border-b">
        <label class="flex min-h-11 items-center gap-3 py-1 {waits.length && !ticked ? 'text-quiet' : ''}">
          <input
            type="checkbox"
            class="checkbox"
            data-task={task.code}
            checked={ticked}
            disabled={disabled || (waits.length > 0 && !ticked)}
            onchange={(e) => tick(task.code, e.currentTarget.checked)}
          />
          <span class="grow">
            <span class={task.why ? "font-semibold" : ""}>{task.name}</span>
            {#if waits.length && !ticked}
              <span class="block text-sm"
                >waits for: {name(waits[0]!).toLowerCase()}{waits.length > 1
                  ? `, and ${waits.length - 1} more`
                  : ""}</span
              >
            {:else if task.why && !ticked}
              <span class="text-quiet block text-sm">{task.why}</span>
            {/if}
          </span>
        </label>
      </li>
    {/each}
  </ol>
  {#each errors as sentence (sentence)}<p class="text-error text-sm">{sentence}</p>{/each}
  <p class="text-quiet mt-1 text-sm">
    Debris goes into a lidded metal pail, outdoors, off the deck. A deposit is never burnt out on purpose: brush, rotary
    tools or chemical treatment.
  </p>
</section>
