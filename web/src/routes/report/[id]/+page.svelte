<script lang="ts">
  import { page } from "$app/state";
  import { api, reply } from "$lib/api/client";
  import Mark from "$lib/components/Mark.svelte";
  import SentenceLine from "$lib/components/SentenceLine.svelte";
  import StopBanner from "$lib/components/StopBanner.svelte";
  import Elevation from "$lib/drawing/Elevation.svelte";
  import { session } from "$lib/session.svelte";
  import { conditions, type Visit } from "$lib/service/visit.svelte";
  import { day } from "$lib/dates";
  import { tables } from "$lib/tables.svelte";

  const id = $derived(page.params.id!);
  let doc = $state<Visit | null>(null);
  let failed = $state("");
  $effect(() => {
    void reply(api.GET("/api/visits/{id}", { params: { path: { id } } })).then((answer) => {
      failed = answer.kind === "away" ? answer.sentence : answer.kind === "problem" ? (answer.problem.title ?? "") : "";
      if (answer.kind === "ok") doc = answer.data;
    });
  });

  const verdicts: Record<string, string> = {
    "as-expected": "as expected",
    "as-expected-too-weak": "as expected for this flue, but too weak for this stove",
    "as-expected-too-strong": "as expected for this flue, but stronger than this stove may have",
    "below-expected": "below what this flue should pull",
    "above-expected": "above what this flue should pull",
  };
  const levels: Record<string, string> = { low: "Low", normal: "Normal", high: "High" };
  const name = (code: string) => conditions.find((c) => c.code === code)?.name ?? code;
  const finding = (part: string) => doc?.findings.find((f) => f.part === part)?.condition ?? null;
  const cautions = [
    "Ash and coals stay hot for days: metal pail with a lid, outdoors, on stone.",
    "Burn dry wood only; no printed paper, painted or treated wood, no waste, no flammable liquids.",
    "Chimney fire: close all air and the door, everybody out, call the fire service; no water into a hot flue; no fire until it was inspected.",
    "CO alarm, or headache and dizziness in more than one person: air, out, call.",
  ];
</script>

<svelte:head
  ><title>{doc ? `Report ${doc.stove.street}, ${day(doc.visit.plannedStart)}` : "Report"} · Grate</title></svelte:head
>

{#if failed}<p role="alert" class="text-error p-6">{failed}</p>{/if}
{#if doc}
  {@const stove = doc.stove}
  <div class="no-print flex gap-2 p-4">
    <button class="btn btn-primary" onclick={() => window.print()}>Print</button>
    <a class="btn" href="/visits/{doc.visit.id}">Back to the visit</a>
  </div>
  <article
    class="report mx-auto max-w-[190mm] bg-white px-8 py-6 text-black print:max-w-none print:p-0"
    data-theme="enamel"
  >
    <header class="flex justify-between border-b-2 border-black pb-2">
      <div>
        <h1 class="text-2xl">Service report</h1>
        <p>{session.state?.firm}</p>
      </div>
      <p class="text-right">
        {day(doc.visit.plannedStart)}<br />{doc.visit.technician}<br />
        {doc.visit.state === "signed" ? `signed ${day(doc.visit.signedAt!)}` : "not signed: a draft of the report"}
      </p>
    </header>
    <div class="mt-3"><StopBanner stops={doc.stops} /></div>
    <div class="mt-3 grid grid-cols-[1fr_75mm] gap-6">
      <div>
        <h2 class="text-lg">{stove.customer}</h2>
        <p>{stove.street}, {stove.place}</p>
        <p>
          {stove.model}, {tables.kindName(stove.kind, stove.combustor)}, {stove.nominalKw} kW, {stove.year}, {stove.room}
        </p>
        <p class="mt-2">{doc.visit.purpose}{doc.visit.complaint ? `: ${doc.visit.complaint}` : ""}</p>
        <p class="mt-4 text-lg">
          {doc.visit.state === "signed" ? "Next inspection by" : "Next inspection, if signed today, by"}
          <span class="computed">{day(doc.proposedInspection)}</span>
        </p>

        <h2 class="mt-4 text-lg">Draft</h2>
        {#if doc.readings.length}
          <table class="w-full text-left text-sm">
            <thead><tr class="border-b border-black"><th>Fire</th><th>Measured</th><th>Expected</th></tr></thead>
            <tbody>
              {#each doc.readings as r (r.level)}
                <tr class="align-top">
                  <td class="pr-3">{levels[r.level]}</td>
                  <td class="measured">{tables.show(r.draftPa, "draft")}</td>
                  <td><span class="computed">{tables.range(r.computed.lowPa, r.computed.highPa, "draft")}</span></td>
                </tr>
                <tr class="border-b border-neutral-300">
                  <td></td>
                  <td colspan="2" class="pb-1">
                    {verdicts[r.verdict]};
                    {r.entered.outdoorC == null
                      ? "outdoor temperature assumed"
                      : `outdoors ${tables.show(r.entered.outdoorC, "temperature")}`},
                    {r.entered.gasC == null
                      ? "flue gas assumed"
                      : `flue gas ${tables.show(r.entered.gasC, "temperature")}`}
                    {#if r.nowExpectedPa != null}<span class="computed">
                        (today’s rules: {tables.show(r.nowExpectedPa, "draft")})</span
                      >{/if}
                  </td>
                </tr>
              {/each}
            </tbody>
          </table>
          <p class="text-xs text-neutral-600">
            Stove needs {tables.range(
              doc.readings[0]!.computed.need.minPa,
              doc.readings[0]!.computed.need.maxPa,
              "draft",
            )}. Expected: 5–95 %, computed for this flue by the method of EN 13384-1 (from memory), rules of {doc
              .readings[0]!.rulesVersion}.
          </p>
        {:else}
          <p>No hot reading was taken.</p>
        {/if}
        {#if doc.coMeaning}<p class="mt-1">{doc.coMeaning}</p>{/if}
      </div>
      <Elevation
        {stove}
        outline={doc.outline}
        flue={doc.flue.flue}
        layout={doc.layout}
        skin="pull"
        conditionOf={finding}
        answer={doc.readings[0]?.computed ?? null}
        readingPa={doc.readings[0]?.draftPa ?? null}
        width={380}
        height={480}
      />
    </div>

    <h2 class="mt-4 text-lg">Findings</h2>
    {#if doc.findings.length}
      <table class="w-full text-left text-sm">
        <tbody>
          {#each doc.findings as f (f.id)}
            <tr class="break-inside-avoid border-b border-neutral-300 align-baseline">
              <td class="w-40 py-1">{tables.partName(f.part)}</td>
              <td class="w-28"><Mark condition={f.condition} /> {name(f.condition)}</td>
              <td>{f.note}{f.lookAgain ? ` Look again by ${day(f.lookAgain)}.` : ""}</td>
            </tr>
          {/each}
        </tbody>
      </table>
    {:else}
      <p>Nothing was marked.</p>
    {/if}

    {#each doc.steps.filter((s) => s.saved && (s.saved.note || s.saved.status === "skipped" || s.saved.concluded.length)) as s (s.code)}
      {#if s.saved}
        <p class="mt-1 text-sm">
          <strong>{s.name}:</strong>
          {s.saved.status === "skipped" ? `skipped, ${s.saved.reason}. ` : ""}{s.saved.note}
          {#each s.saved.concluded as sentence, i (i)}<SentenceLine {sentence} inline />{/each}
        </p>
      {/if}
    {/each}
    {#each doc.additions as added (added.id)}
      <p class="mt-1 text-sm"><strong>Added {day(added.writtenAt)} by {added.writtenBy}:</strong> {added.text}</p>
    {/each}

    <section class="mt-4 break-inside-avoid">
      <h2 class="text-lg">Cautions</h2>
      <ul class="list-disc pl-5 text-sm">
        {#each cautions as caution (caution)}<li>{caution}</li>{/each}
      </ul>
      <p class="mt-2 text-xs text-neutral-600">
        A calculation aid and a record: codes, the appliance’s manual and the inspector of the place decide.
      </p>
    </section>
  </article>
{:else if !failed}
  <p class="p-6"><span class="loading loading-dots" aria-label="Loading"></span></p>
{/if}
