<script lang="ts">
  import { api, refusals, reply, type Schema } from "../api/client";
  import TextField from "../components/TextField.svelte";
  import { dayOf } from "../dates";
  import PlanFields from "./PlanFields.svelte";
  import TellHousehold from "./TellHousehold.svelte";
  import { move, planOf, type Against, type Plan } from "./plan";

  /** The brick in hand: moved, lengthened, given to somebody else, cancelled. */
  interface Props {
    visit: Schema["WeekVisit"];
    technicians: Schema["Technician"][];
    today: string;
    /** Whether the one who looks plans for everybody. */
    movable: boolean;
    /** A drop that was asked back: its plan and what stands against it. */
    dropped?: { plan: Plan; refused: Against } | null;
    onchanged: (said: string) => void;
    /** It is cancelled, and its household does not know yet. */
    oncancelled: () => void;
  }
  let { visit, technicians, today, movable, dropped = null, onchanged, oncancelled }: Props = $props();

  const id = $derived(visit.stop.visitId);
  // svelte-ignore state_referenced_locally
  let plan = $state<Plan>(dropped?.plan ?? planOf(visit));
  // svelte-ignore state_referenced_locally
  let refused = $state(dropped?.refused ?? null);
  let why = $state("");
  let cancelling = $state(false);
  let failed = $state<string[]>([]);
  let log = $state<Schema["PlanLine"][]>([]);

  async function readLog() {
    const answer = await reply(api.GET("/api/visits/{id}/plan", { params: { path: { id } } }));
    if (answer.kind === "ok") log = answer.data;
  }
  $effect(() => void readLog());

  async function place(despite: boolean) {
    refused = await move(visit, plan, despite);
    if (!refused) onchanged(`${visit.stop.street}: ${plan.time}, planned.`);
  }

  async function cancel() {
    const body = { baseVersion: visit.stop.planVersion, why };
    const answer = await reply(api.POST("/api/visits/{id}/cancel", { params: { path: { id } }, body }));
    failed = refusals(answer);
    if (answer.kind === "ok") oncancelled();
  }
</script>

<section class="bg-base-100 border-primary border-l-8 p-4" aria-label="{visit.stop.street}, {visit.stop.place}">
  <div class="flex flex-wrap items-baseline gap-x-4">
    <h2 class="text-lg">{visit.stop.street}, {visit.stop.place}</h2>
    <span class="text-quiet">{visit.stop.customer} · {visit.stop.model} · {visit.stop.purpose}</span>
    <a class="link ml-auto" href="/visits/{id}">Open the visit</a>
  </div>
  {#if visit.stop.complaint}<p>“{visit.stop.complaint}”</p>{/if}
  {#if visit.stop.asked}
    <p class="border-base-content my-2 border-l-4 pl-3">
      The household asks for another date: <span class="font-semibold">{visit.stop.asked}</span>
    </p>
  {/if}
  {#if movable && visit.stop.state === "open"}
    <div class="mt-3">
      <PlanFields
        {plan}
        {technicians}
        {today}
        {refused}
        word="Move it there"
        onchange={(p) => ([plan, refused] = [p, null])}
        onplan={place}
      />
    </div>
    {#if cancelling}
      <form
        class="mt-3 flex flex-wrap items-end gap-3"
        onsubmit={(e) => {
          e.preventDefault();
          void cancel();
        }}
      >
        <TextField id="why" label="Say why it is cancelled" most={500} value={why} onchange={(v) => (why = v)} />
        <button class="btn min-h-11" disabled={why.trim() === ""}>Cancel the visit</button>
        <button type="button" class="btn btn-ghost min-h-11" onclick={() => (cancelling = false)}>Leave it</button>
      </form>
    {:else}
      <button type="button" class="btn mt-3 min-h-11" onclick={() => (cancelling = true)}>Cancel it</button>
    {/if}
    <TellHousehold {id} kinds={["planned", "reminder"]} ontold={readLog} />
    {#each failed as sentence, n (n)}<p role="alert" class="text-error text-sm">{sentence}</p>{/each}
  {/if}
  {#if log.length}
    <ul class="mt-3 text-sm">
      {#each log as line, i (i)}<li><span class="text-quiet">{dayOf(line.at)}, {line.by}:</span> {line.what}</li>{/each}
    </ul>
  {/if}
</section>
