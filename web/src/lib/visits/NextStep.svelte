<script lang="ts">
  import { api, reply, refusals, type Schema } from "../api/client";
  import TextField from "../components/TextField.svelte";
  import { day, dayOf } from "../dates";
  import { settings } from "../settings.svelte";
  import { tables } from "../tables.svelte";
  import { uuid7 } from "../uuid";
  import type { VisitState } from "./visit.svelte";

  let { visit }: { visit: VisitState } = $props();

  let refused = $state<string[]>([]);
  let signing = $state(false);
  let asking = $state(false);
  let addition = $state("");
  let reasons = $state<Record<string, string>>({});
  const gate = $derived(visit.doc.signing);
  const waiting = $derived((gate?.missing ?? []).filter((m) => !reasons[m.code]?.trim()));
  const ready = $derived(gate != null && gate.refusals.length === 0 && waiting.length === 0 && visit.unsaved === 0);

  // Where a signed visit did not keep its dates, the stove's of today are told.
  const dates = $derived(visit.signed && visit.doc.dates.length === 0 ? visit.doc.due : visit.doc.dates);
  const what = (task: Schema["DueTask"]) =>
    ({
      stop: "Stop to clear",
      sweep: "Sweep",
      inspection: "Inspection",
      "look-again": `Look again: ${tables.partName(task.part ?? "")}`,
      part: tables.partName(task.part ?? ""),
    })[task.kind];

  async function sign() {
    signing = true;
    const answer = await reply(
      api.POST("/api/visits/{id}/sign", {
        params: { path: { id: visit.id }, query: { units: settings.system } },
        body: { confirmed: true, reasons },
      }),
    );
    signing = asking = false;
    refused = refusals(answer);
    if (answer.kind === "ok") visit.doc = answer.data;
    else await visit.refresh();
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

<h3>Dates</h3>
<table class="table-sm table">
  <tbody>
    {#each dates as task (task.kind + (task.part ?? ""))}
      <tr>
        <td>{what(task)}</td>
        <td class="computed whitespace-nowrap">{day(task.by)}</td>
        <td>{task.reason}</td>
      </tr>
    {/each}
  </tbody>
</table>
{#each visit.doc.stops as { stop, sentence } (stop.id)}
  <p class="text-error mt-2">{sentence} It stays on this stove until it is cleared.</p>
{/each}

{#if !visit.signed && visit.writable && gate}
  <h3 class="mt-7 mb-2">Before it is signed</h3>
  {#each gate.refusals as refusal, n (n)}
    <p class="text-error">
      {refusal.sentence}
      {#if refusal.step}<a
          class="link"
          href="/visits/{visit.id}/{refusal.step}{refusal.station ? `/${refusal.station}` : ''}">Go there</a
        >{/if}
    </p>
  {/each}
  {#each visit.refused as r (r.step + r.name)}
    <p class="text-error">
      <a class="link" href="/visits/{visit.id}/{r.step}">{r.name} in {visit.stepName(r.step.split("/")[0]!)}</a> is not saved:
      an entry there cannot be used.
    </p>
  {/each}
  {#each gate.missing as gap (gap.code)}
    <div class="border-base-300 mb-4 border-l-4 pl-3">
      <p class="mb-1">{gap.sentence}</p>
      <TextField
        id="reason-{gap.code}"
        label="Why it is left out"
        value={reasons[gap.code] ?? ""}
        most={500}
        onchange={(text) => (reasons = { ...reasons, [gap.code]: text })}
      />
    </div>
  {/each}
  {#if gate.refusals.length + gate.missing.length + visit.refused.length === 0}
    <p>Everything is there.</p>
  {/if}
{/if}
<div class="my-4 flex flex-wrap items-center gap-2">
  {#if !visit.signed && visit.writable}
    {#if asking}
      <p class="w-full">Once signed, this visit is never changed; corrections are added below it.</p>
      <button class="btn btn-primary min-h-11" disabled={signing || !ready} onclick={sign}>Yes, sign it</button>
      <button class="btn min-h-11" onclick={() => (asking = false)}>Not yet</button>
    {:else}
      <button class="btn btn-primary min-h-11" disabled={!ready} onclick={() => (asking = true)}>Sign and finish</button
      >
      {#if !ready && gate && gate.refusals.length === 0}
        <span class="text-quiet text-sm"
          >{waiting.length
            ? "Say first why it is left out."
            : visit.unsaved
              ? "Waits until everything is saved."
              : ""}</span
        >
      {/if}
    {/if}
  {/if}
  <a class="btn min-h-11" href="/report/{visit.id}">Report</a>
</div>
{#each refused as sentence, n (n)}<p role="alert" class="text-error">{sentence}</p>{/each}
{#if visit.signed}
  <p>
    Signed by {visit.doc.visit.row.signedBy} on {day(visit.doc.visit.signedOn!)}. It is never changed; corrections are
    added.
  </p>
  {#each visit.doc.additions as added (added.id)}
    <p class="border-base-300 border-l-4 pl-3">
      {added.text} <span class="text-quiet text-sm">{added.writtenBy}, {dayOf(added.writtenAt)}</span>
    </p>
  {/each}
  {#if visit.doc.mayWrite}
    <div class="mt-4">
      <TextField
        id="addition"
        label="Add a correction"
        value={addition}
        most={5000}
        rows={2}
        onchange={(t) => (addition = t)}
      />
      <button class="btn btn-sm mt-2 min-h-11" disabled={addition.trim() === ""} onclick={add}>Add</button>
    </div>
  {/if}
{/if}
