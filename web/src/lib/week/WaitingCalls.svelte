<script lang="ts">
  import { api, refusals, reply, type Schema } from "../api/client";
  import TextField from "../components/TextField.svelte";
  import { dayOf } from "../dates";
  import { tables } from "../tables.svelte";
  import { uuid7 } from "../uuid";
  import PlanFields from "./PlanFields.svelte";
  import { against, nextFree, sent, type Against, type Plan } from "./plan";

  /** Calls that have no place in the wall yet, the pressing ones on top. */
  interface Props {
    calls: Schema["WaitingCall"][];
    technicians: Schema["Technician"][];
    today: string;
    day: string;
    onchanged: (said: string, day: string) => void;
  }
  let { calls, technicians, today, day, onchanged }: Props = $props();

  let open = $state<string | null>(null);
  let visitId = $state(uuid7());
  let plan = $state<Plan>({ technicianId: "", day: "", time: "08:00", minutes: 60 });
  let refused = $state<Against | null>(null);
  let why = $state("");
  let failed = $state<string[]>([]);
  /** A visit that the stove has open already: the call joins it, or brings it forward. */
  let openVisit = $state<string | null>(null);

  async function take(call: Schema["WaitingCall"]) {
    open = call.id;
    visitId = uuid7();
    refused = openVisit = null;
    plan = {
      technicianId: technicians[0]?.id ?? "",
      day: day < today ? today : day,
      time: "08:00",
      minutes: call.minutes,
    };
    await free(call, true);
  }

  // The first free time from that day on: of anybody to begin with, then of whoever was chosen.
  const free = async (call: Schema["WaitingCall"], anybody = false) =>
    ({ plan, refused } = await nextFree(plan, call.applianceId, anybody));

  async function place(call: Schema["WaitingCall"], despite: boolean, bring: string | null = null) {
    const body = { id: visitId, ...sent(plan, despite), bring };
    const answer = await reply(api.POST("/api/calls/{id}/plan", { params: { path: { id: call.id } }, body }));
    refused = against(answer);
    if (answer.kind === "problem") openVisit = answer.problem.openVisit ?? openVisit;
    if (answer.kind === "ok")
      onchanged(`${call.street}: ${bring ? "its visit is brought forward" : "planned"}.`, plan.day);
  }

  async function join(call: Schema["WaitingCall"]) {
    const body = { visitId: openVisit! };
    const answer = await reply(api.POST("/api/calls/{id}/join", { params: { path: { id: call.id } }, body }));
    failed = refusals(answer);
    if (answer.kind === "ok") onchanged(`${call.street}: the call joined its visit.`, day);
  }

  async function close(call: Schema["WaitingCall"]) {
    const answer = await reply(api.POST("/api/calls/{id}/close", { params: { path: { id: call.id } }, body: { why } }));
    failed = refusals(answer);
    if (answer.kind === "ok") onchanged(`${call.street}: no visit needed.`, day);
  }
</script>

<section aria-labelledby="loose">
  <h2 id="loose" class="text-lg">Loose</h2>
  <p class="text-quiet text-sm">No place in the wall yet, the pressing ones on top.</p>
  <ul class="mt-2 space-y-2">
    {#each calls as call (call.id)}
      <li class="rounded-sm border-2 p-3 {call.urgent ? 'border-error' : 'border-base-content'} bg-base-100">
        <button
          type="button"
          class="w-full cursor-pointer text-left"
          aria-expanded={open === call.id}
          onclick={() => take(call)}
        >
          {#if call.emergency}<span class="bg-error text-error-content mb-1 block px-2 font-bold"
              >{tables.all?.emergencies.find((e) => e.kind === call.emergency)?.name}</span
            >{/if}
          <strong class={call.urgent ? "text-error" : ""}>{call.words}</strong>
          <span class="block text-sm">{call.customer}, {call.street}, {call.place} · {call.minutes} min</span>
          <span class="text-quiet block text-sm"
            >{call.urgent ? "Cannot wait. " : ""}{call.wish ? `When: ${call.wish}. ` : ""}Called {dayOf(call.takenAt)}, {call.phone}</span
          >
        </button>
        {#if open === call.id}
          <div class="mt-3 space-y-3">
            <PlanFields
              {plan}
              {technicians}
              {today}
              {refused}
              word="Plan it"
              onchange={(p) => ([plan, refused] = [p, null])}
              onplan={(despite) => place(call, despite)}
            />
            {#if openVisit}
              <div class="border-primary flex flex-wrap gap-2 border-l-4 pl-3">
                <a class="btn btn-sm min-h-11" href="/visits/{openVisit}">That visit</a>
                <button
                  type="button"
                  class="btn btn-sm min-h-11"
                  onclick={() => place(call, refused?.ask === true, openVisit)}
                  >Bring it to this time{refused?.ask ? ", all the same" : ""}</button
                >
                <button type="button" class="btn btn-sm min-h-11" onclick={() => join(call)}>Join it as it is</button>
              </div>
            {/if}
            <button type="button" class="btn btn-sm min-h-11" onclick={() => free(call)}>Next free time</button>
            <form
              class="flex flex-wrap items-end gap-3"
              onsubmit={(e) => {
                e.preventDefault();
                void close(call);
              }}
            >
              <TextField
                id="no-visit"
                label="No visit needed: say why"
                most={500}
                value={why}
                onchange={(v) => (why = v)}
              />
              <button class="btn btn-sm min-h-11" disabled={why.trim() === ""}>No visit</button>
            </form>
            {#each failed as sentence, n (n)}<p role="alert" class="text-error text-sm">{sentence}</p>{/each}
          </div>
        {/if}
      </li>
    {:else}
      <li class="text-quiet">Nothing is loose.</li>
    {/each}
  </ul>
  <a class="btn mt-3 min-h-11" href="/call">A call comes in <kbd class="text-quiet">c</kbd></a>
</section>
