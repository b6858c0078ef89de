<script lang="ts">
  import { api, reply, refusals } from "../api/client";
  import { day } from "../dates";
  import { tables } from "../tables.svelte";
  import { uuid7 } from "../uuid";
  import type { VisitState } from "./visit.svelte";

  let { visit }: { visit: VisitState } = $props();

  let refused = $state<string[]>([]);
  let signing = $state(false);
  let addition = $state("");
  const signed = $derived(visit.doc.visit.state === "signed");

  async function sign() {
    signing = true;
    await Promise.all(Object.values(visit.steps).map((s) => s.flush()));
    const answer = await reply(api.POST("/api/visits/{id}/sign", { params: { path: { id: visit.id } } }));
    signing = false;
    refused = refusals(answer);
    if (answer.kind === "ok") visit.doc = answer.data;
  }

  async function add() {
    const body = { id: uuid7(), text: addition };
    const answer = await reply(api.POST("/api/visits/{id}/additions", { params: { path: { id: visit.id } }, body }));
    refused = refusals(answer);
    if (answer.kind !== "ok") return;
    addition = "";
    await visit.refresh();
  }
</script>

<p class="text-lg">
  Next inspection by <span class="computed">{day(visit.doc.proposedInspection)}</span>
  <span class="text-quiet text-sm">(stove and flue once a year; NFPA 211, from memory)</span>
</p>
{#each visit.doc.stops as { stop, sentence } (stop.id)}
  <p class="text-error">{sentence} It stays on this stove until it is cleared.</p>
{/each}
{#each visit.doc.findings.filter((f) => f.lookAgain) as finding (finding.id)}
  <p>Look again at the {tables.partName(finding.part)} by <span class="computed">{day(finding.lookAgain!)}</span>.</p>
{/each}
<div class="my-3 flex flex-wrap gap-2">
  {#if !signed && visit.writable}
    <button class="btn btn-primary" disabled={signing || visit.unsaved > 0} onclick={sign}>Sign and finish</button>
  {/if}
  <a class="btn" href="/report/{visit.id}">Report</a>
</div>
{#each refused as sentence (sentence)}<p role="alert" class="text-error">{sentence}</p>{/each}
{#if signed}
  <p>
    Signed by {visit.doc.visit.signedBy} on {day(visit.doc.visit.signedAt!)}. It is never changed; corrections are
    added.
  </p>
  {#each visit.doc.additions as added (added.id)}
    <p class="border-base-300 border-l-4 pl-3">
      {added.text} <span class="text-quiet text-sm">{added.writtenBy}, {day(added.writtenAt)}</span>
    </p>
  {/each}
  {#if visit.doc.mayWrite}
    <label class="mt-2 block"
      ><span class="text-quiet text-sm">Add a correction</span>
      <textarea class="textarea w-full" rows="2" maxlength="5000" bind:value={addition}></textarea></label
    >
    <button class="btn btn-sm mt-1" disabled={addition.trim() === ""} onclick={add}>Add</button>
  {/if}
{/if}
