<script lang="ts">
  import { api, reply, refusals, type Schema } from "../api/client";
  import Mark from "../components/Mark.svelte";
  import { session } from "../session.svelte";
  import { day } from "../dates";

  let { notice, onclear }: { notice: Schema["StopNotice"]; onclear: () => void } = $props();
  const stop = $derived(notice.stop);
  let what = $state("");
  let retest = $state("");
  let retestPassed = $state(false);
  let refused = $state<string[]>([]);

  async function clear(event: SubmitEvent) {
    event.preventDefault();
    const body = { what, retest, retestPassed };
    const answer = await reply(api.POST("/api/stops/{id}/clear", { params: { path: { id: stop.id } }, body }));
    refused = refusals(answer);
    if (answer.kind === "ok") onclear();
  }
</script>

<div class="border-base-300 border-b py-2">
  <p><Mark condition={stop.clearedAt ? "sound" : "unsafe"} /> {notice.sentence}</p>
  <p class="text-quiet text-sm">
    Set by {stop.setBy}, {day(notice.setOn)}, in <a class="link" href="/visits/{stop.visitId}">that visit</a>.
  </p>
  {#if stop.clearedAt}
    <p class="text-sm">
      Cleared by {stop.clearedBy}, {day(notice.clearedOn!)}: {stop.clearedWhat} Re-test: {stop.clearedRetest}
    </p>
  {:else if session.person?.role !== "office"}
    <details>
      <summary class="link cursor-pointer text-sm">Clear this stop</summary>
      <form class="mt-2 space-y-2" onsubmit={clear}>
        <label class="block"
          ><span class="text-quiet text-sm">What was done</span><input
            class="input w-full"
            maxlength="2000"
            required
            bind:value={what}
          /></label
        >
        <label class="block"
          ><span class="text-quiet text-sm">Re-test made</span><input
            class="input w-full"
            maxlength="2000"
            required
            bind:value={retest}
          /></label
        >
        <label class="flex items-center gap-2"
          ><input class="checkbox" type="checkbox" bind:checked={retestPassed} /> The re-test passed</label
        >
        {#each refused as sentence (sentence)}<p role="alert" class="text-error text-sm">{sentence}</p>{/each}
        <button class="btn btn-sm">Clear the stop</button>
      </form>
    </details>
  {/if}
</div>
