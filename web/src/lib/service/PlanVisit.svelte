<script lang="ts">
  import { api, reply, type Schema } from "../api/client";
  import { session } from "../session.svelte";
  import { uuid7 } from "../uuid";
  import { against, nextFree, sent, type Against, type Plan } from "../week/plan";
  import PlanFields from "../week/PlanFields.svelte";

  interface Props {
    line: Schema["DueLine"];
    technicians: Schema["Technician"][];
    today: string;
    /** Told the day when the visit is planned. */
    onplanned: (date: string) => void;
    oncancel: () => void;
  }
  let { line, technicians, today, onplanned, oncancel }: Props = $props();

  const own = $derived(session.person?.role === "technician");
  const id = uuid7();
  // svelte-ignore state_referenced_locally
  let plan = $state<Plan>({
    technicianId: own ? session.person!.id : (line.lastTechnicianId ?? technicians[0]?.id ?? ""),
    day: line.earliest > today ? line.earliest : today,
    time: "",
    minutes: line.minutes,
  });
  let refused = $state<Against | null>(null);

  // The first free time from the day on that is asked for.
  async function propose() {
    ({ plan, refused } = await nextFree(plan, line.applianceId));
  }
  $effect(() => {
    if (plan.technicianId && plan.time === "") void propose();
  });

  async function send(despite: boolean) {
    const body = { id, applianceId: line.applianceId, ...sent(plan, despite) };
    const answer = await reply(api.POST("/api/season/visits", { body }));
    refused = against(answer);
    if (answer.kind === "ok") onplanned(plan.day);
  }
</script>

<div class="border-primary my-2 border-l-4 pl-3">
  <PlanFields
    {plan}
    {technicians}
    {today}
    {refused}
    {own}
    word="Plan it"
    onchange={(p) => ([plan, refused] = [p.technicianId === plan.technicianId ? p : { ...p, time: "" }, null])}
    onplan={send}
  >
    <button type="button" class="btn min-h-11" onclick={propose}>Next free time</button>
    <button type="button" class="btn btn-ghost min-h-11" onclick={oncancel}>Leave it</button>
  </PlanFields>
</div>
