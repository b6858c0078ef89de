<script lang="ts">
  import { api, reply, refusals, type Schema } from "../api/client";
  import { session } from "../session.svelte";
  import { uuid7 } from "../uuid";

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
  let technicianId = $state(own ? session.person!.id : (line.lastTechnicianId ?? technicians[0]?.id ?? ""));
  // svelte-ignore state_referenced_locally
  let date = $state(line.earliest > today ? line.earliest : today);
  let time = $state("");
  // svelte-ignore state_referenced_locally
  let minutes = $state(line.minutes);
  let refused = $state<string[]>([]);
  let sending = $state(false);

  // The first free time from the day on that is asked for.
  async function propose() {
    const query = { technicianId, from: date, minutes };
    const answer = await reply(api.GET("/api/season/slot", { params: { query } }));
    refused = refusals(answer);
    if (answer.kind !== "ok") return;
    date = answer.data.day;
    time = answer.data.time.slice(0, 5);
  }
  $effect(() => {
    if (technicianId && time === "") void propose();
  });

  async function plan() {
    sending = true;
    const body = { id, applianceId: line.applianceId, technicianId, day: date, time: `${time}:00`, minutes };
    const answer = await reply(api.POST("/api/season/visits", { body }));
    sending = false;
    refused = refusals(answer);
    if (answer.kind === "ok") onplanned(date);
  }
</script>

<form
  class="border-primary my-2 flex flex-wrap items-end gap-3 border-l-4 pl-3"
  onsubmit={(e) => {
    e.preventDefault();
    void plan();
  }}
>
  <label class="text-quiet text-sm"
    >Who
    <select class="select flex w-44" disabled={own} bind:value={technicianId} onchange={() => (time = "")}>
      {#each technicians as t (t.id)}<option value={t.id}>{t.name}</option>{/each}
    </select></label
  >
  <label class="text-quiet text-sm"
    >Day <input type="date" class="input flex w-40" min={today} bind:value={date} /></label
  >
  <label class="text-quiet text-sm">Time <input type="time" class="input flex w-36" required bind:value={time} /></label
  >
  <label class="text-quiet text-sm"
    >Minutes <input type="number" class="input flex w-24" min="15" max="600" step="5" bind:value={minutes} /></label
  >
  <button type="button" class="btn" onclick={propose}>Next free time</button>
  <button class="btn btn-primary" disabled={sending || time === ""}>Plan it</button>
  <button type="button" class="btn btn-ghost" onclick={oncancel}>Leave it</button>
  {#each refused as sentence (sentence)}<p role="alert" class="text-error w-full text-sm">{sentence}</p>{/each}
</form>
