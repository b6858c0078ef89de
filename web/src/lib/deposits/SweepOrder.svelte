<script lang="ts">
  import type { Schema } from "../api/client";
  import { tables } from "../tables.svelte";
  import WorkOrder from "../visits/WorkOrder.svelte";

  interface Props {
    plan: Schema["SweepPlan"];
    done: string[];
    errors: string[];
    disabled: boolean;
    onchange: (done: string[]) => void;
  }
  let { plan, done, errors, disabled, onchange }: Props = $props();
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
  <WorkOrder order={plan.order} {done} {errors} {disabled} {onchange} />
  <p class="text-quiet mt-1 text-sm">
    Debris goes into a lidded metal pail, outdoors, off the deck. A deposit is never burnt out on purpose: brush, rotary
    tools or chemical treatment.
  </p>
</section>
