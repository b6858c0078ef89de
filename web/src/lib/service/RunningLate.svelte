<script lang="ts">
  import { api, headline, reply, type Schema } from "../api/client";
  import { timeOf } from "../week/plan";

  /** On the road: how much longer it takes here, what that does to the rest, and whom to tell. */
  let minutes = $state(30);
  let late = $state<Schema["LateRound"] | null>(null);
  let failed = $state("");
  let told = $state<string[]>([]);
  let busy = $state(false);

  async function look() {
    busy = true;
    const answer = await reply(api.GET("/api/rounds/late", { params: { query: { busyMin: minutes } } }));
    busy = false;
    failed = headline(answer);
    if (answer.kind === "ok") [late, told] = [answer.data, []];
  }

  async function tell(stop: Schema["DayStop"]) {
    busy = true;
    const answer = await reply(
      api.POST("/api/visits/{id}/messages", {
        params: { path: { id: stop.visitId } },
        body: { kind: "late", at: `${timeOf(stop.fromMin)}:00` },
      }),
    );
    busy = false;
    failed = headline(answer);
    if (answer.kind === "ok") told = [...told, stop.visitId];
  }
</script>

<section aria-labelledby="running-late" class="mt-4">
  <h2 id="running-late" class="text-lg">Running late</h2>
  <form
    class="flex flex-wrap items-center gap-3"
    onsubmit={(e) => {
      e.preventDefault();
      void look();
    }}
  >
    <label class="flex items-center gap-2"
      >Busy here for another
      <input class="input min-h-11 w-20" type="number" min="0" max="480" step="5" required bind:value={minutes} /> min</label
    >
    <button class="btn min-h-11" disabled={busy}>Shift the rest</button>
  </form>
  {#if failed}<p role="alert" class="text-error mt-1">{failed}</p>{/if}
  {#if late}
    <p class="mt-1" role="status">{late.sentence}</p>
    <ul>
      {#each late.route.stops as s (s.visitId)}
        <li class="border-base-300 flex flex-wrap items-center gap-x-4 border-b py-1">
          <span><span class="computed">{timeOf(s.fromMin)}</span> {s.street}, {s.place}</span>
          {#if s.lateMin >= 1}<span class="text-quiet">{s.lateMin.toFixed(0)} min later</span>{/if}
          {#if told.includes(s.visitId)}<span>Told: it is in the outbox.</span>
          {:else if late.tell.includes(s.visitId)}
            <button type="button" class="btn btn-sm min-h-11" disabled={busy} onclick={() => tell(s)}
              >Tell them: about {timeOf(s.fromMin)}</button
            >
          {/if}
        </li>
      {/each}
    </ul>
  {/if}
</section>
