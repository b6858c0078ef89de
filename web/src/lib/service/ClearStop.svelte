<script lang="ts">
  import { api, reply, refusals, type Schema } from "../api/client";
  import TextField from "../components/TextField.svelte";
  import { session } from "../session.svelte";

  let { notice, onclear }: { notice: Schema["StopNotice"]; onclear: () => void } = $props();
  const uid = $props.id();
  let what = $state("");
  let retest = $state("");
  let retestPassed = $state(false);
  let mistake = $state("");
  // A mark by one's own finger is taken back with a word, without a re-test, on the day it was set.
  const own = $derived(notice.stop.part !== null && notice.stop.setBy === session.person?.name);
  let refused = $state<string[]>([]);

  async function clear(event: SubmitEvent) {
    event.preventDefault();
    await send({ what, retest, retestPassed, mistake: "" });
  }

  async function send(body: Schema["StopClearing"]) {
    const answer = await reply(api.POST("/api/stops/{id}/clear", { params: { path: { id: notice.stop.id } }, body }));
    refused = refusals(answer);
    if (answer.kind === "ok") onclear();
  }
</script>

<details class="no-print text-base-content">
  <summary class="link cursor-pointer text-sm">Clear this stop</summary>
  <form class="mt-2 max-w-prose space-y-3 pb-2" onsubmit={clear}>
    <TextField
      id="{uid}-what"
      label="What was done"
      most={2000}
      required
      value={what}
      onchange={(text) => (what = text)}
    />
    <TextField
      id="{uid}-retest"
      label="How it was tested again. Asked for: {notice.retest}"
      most={2000}
      required
      value={retest}
      onchange={(text) => (retest = text)}
    />
    <label class="flex items-center gap-2"
      ><input class="checkbox" type="checkbox" bind:checked={retestPassed} /> The re-test passed</label
    >
    {#each refused as sentence, n (n)}<p role="alert" class="text-error text-sm">{sentence}</p>{/each}
    <button class="btn btn-sm min-h-11">Clear the stop</button>
  </form>
  {#if own}
    <div class="mt-2 flex max-w-prose flex-wrap items-end gap-3 pb-2">
      <TextField
        id="{uid}-mistake"
        label="Set by mistake? Say how"
        most={500}
        value={mistake}
        onchange={(text) => (mistake = text)}
      />
      <button
        type="button"
        class="btn btn-sm min-h-11"
        disabled={mistake.trim() === ""}
        onclick={() => send({ what: "", retest: "", retestPassed: false, mistake })}>Take it back</button
      >
    </div>
  {/if}
</details>
