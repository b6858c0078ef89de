<script lang="ts">
  import { page } from "$app/state";
  import { failure } from "$lib/api/client";
  import Failure from "$lib/components/Failure.svelte";
  import Mark from "$lib/components/Mark.svelte";
  import SentenceLine from "$lib/components/SentenceLine.svelte";
  import StopBanner from "$lib/components/StopBanner.svelte";
  import { day, dayOf } from "$lib/dates";
  import Elevation from "$lib/drawing/Elevation.svelte";
  import StoveSection from "$lib/drawing/StoveSection.svelte";
  import Signature from "$lib/household/Signature.svelte";
  import { tables } from "$lib/tables.svelte";
  import type { Schema } from "$lib/api/client";
  import { photoAddress } from "$lib/visits/photos.svelte";
  import { gravity, readVisit, type Visit } from "$lib/visits/visit.svelte";

  const id = $derived(page.params.id!);
  let doc = $state<Visit | null>(null);
  let failed = $state("");
  $effect(() => {
    void readVisit(id).then((answer) => {
      failed = failure(answer);
      if (answer.kind === "ok") doc = answer.data;
    });
  });

  const condition = (part: string) => doc?.words.find((w) => w.part === part)?.condition ?? null;
  // One word a part, with the note of the step that said it.
  const grave = $derived(
    (doc?.findings ?? [])
      .filter((f) => doc!.words.some((w) => w.part === f.part && w.step === f.step))
      .filter((f) => f.condition !== "sound" && f.condition !== "not-seen")
      .sort((a, b) => gravity.indexOf(a.condition) - gravity.indexOf(b.condition)),
  );
  const named = (condition: string) =>
    (doc?.words ?? []).filter((w) => w.condition === condition).map((w) => tables.partName(w.part));
  const sound = $derived(named("sound"));
  const unseen = $derived(named("not-seen"));
  const stations = $derived(
    (doc?.steps ?? []).flatMap((s) =>
      s.stations.filter((t) => t.saved).map((t) => ({ step: s, ...t, saved: t.saved! })),
    ),
  );
  // The drawing shows the reading and the fire that belong together.
  const fire = $derived(
    (stations.find((s) => s.code === "hot-draft")?.saved.answer as Schema["HotTestAnswer"] | null)?.fires.find(
      (f) => f.readingPa != null,
    ) ?? null,
  );
  const agreement = $derived(
    stations.find((s) => s.code === "agreement")?.saved.entry as Schema["Agreement"] | undefined,
  );
  const cautions = [
    "Ash and coals stay hot for days: metal pail with a lid, outdoors, on stone.",
    "Burn dry wood only; no printed paper, painted or treated wood, no waste, no flammable liquids.",
  ];
</script>

<svelte:head><title>{doc ? `Report ${doc.house.street}, ${day(doc.visit.day)}` : "Report"} · Grate</title></svelte:head>

<Failure sentence={failed} />
{#if doc}
  {@const { stove, house, visit } = doc}
  <div class="no-print flex gap-2 p-4">
    <button class="btn btn-primary min-h-11" onclick={() => window.print()}>Print</button>
    <a class="btn min-h-11" href="/visits/{visit.row.id}">Back to the visit</a>
  </div>
  <article
    class="report mx-auto max-w-[190mm] bg-white px-8 py-6 text-black print:max-w-none print:p-0"
    data-theme="enamel"
  >
    <header class="flex justify-between border-b-2 border-black pb-2">
      <div>
        <h1 class="text-2xl">Service report</h1>
        <p>{doc.firm}</p>
        {#each [doc.contact.address, [doc.contact.phone, doc.contact.email]
            .filter(Boolean)
            .join(", ")].filter(Boolean) as line (line)}
          <p class="text-sm whitespace-pre-line">{line}</p>
        {/each}
      </div>
      <p class="text-right">
        {day(visit.day)}<br />{visit.row.technician}<br />
        {visit.signedOn ? `signed ${day(visit.signedOn)}` : "not signed: a draft of the report"}
      </p>
    </header>
    <div class="mt-3"><StopBanner stops={doc.stops} /></div>
    <div class="mt-3 grid grid-cols-[1fr_75mm] gap-6 max-sm:grid-cols-1">
      <div>
        <h2 class="text-lg">{doc.customer.name}</h2>
        <p>{house.street}, {house.place}</p>
        <p>
          {stove.model}, {tables.kindName(stove.kind, stove.combustor)}, {stove.nominalKw} kW, {stove.year}, {stove.room}
        </p>
        <p class="mt-2">{visit.row.purpose}{visit.row.complaint ? `: ${visit.row.complaint}` : ""}</p>
        <p class="mt-4 text-lg">
          {#if doc.proposedInspection}
            {visit.signedOn ? "Next inspection by" : "Next inspection, if signed today, by"}
            <span class="computed">{day(doc.proposedInspection)}</span>{doc.inspection ? "" : ", as it was before"}
          {:else}
            When this stove was inspected last is not known: its inspection is due now
          {/if}
        </p>
        {#if doc.notChecked}
          <p class="border-l-4 border-black pl-2 font-semibold">
            {doc.notChecked}
            {doc.inspection ? "" : "This visit was no inspection of stove and flue."}
          </p>
        {/if}

        <h2 class="mt-4 text-lg">Findings</h2>
        {#if grave.length + sound.length > 0}
          <table class="w-full text-left text-sm">
            <tbody>
              {#each grave as f (f.id)}
                <tr class="break-inside-avoid border-b border-neutral-300 align-baseline">
                  <td class="py-1 pr-2">{tables.partName(f.part)}</td>
                  <td class="w-28"><Mark condition={f.condition} /> {tables.conditionOf(f.part, f.condition)}</td>
                  <td>{f.note}{f.lookAgain ? ` Look again by ${day(f.lookAgain)}.` : ""}</td>
                </tr>
              {/each}
            </tbody>
          </table>
          {#if sound.length}<p class="mt-1 text-sm"><Mark condition="sound" /> Sound: {sound.join(", ")}.</p>{/if}
        {:else}
          <p>No part was looked at.</p>
        {/if}
        {#if unseen.length}<p class="mt-1 text-sm">
            <Mark condition="not-seen" /> Not seen this time: {unseen.join(", ")}.
          </p>{/if}
      </div>
      <div>
        <Elevation
          {stove}
          {house}
          outline={doc.outline}
          flue={doc.flue.flue}
          layout={doc.layout}
          layer="pull"
          conditionOf={condition}
          answer={fire?.answer ?? null}
          readingPa={fire?.readingPa ?? null}
          fire={doc.stops.length === 0}
          width={380}
          height={480}
        />
        <StoveSection
          section={doc.section}
          model={stove.model}
          layer="condition"
          conditionOf={condition}
          width={380}
          height={360}
        />
      </div>
    </div>

    {#each stations as s (s.step.code + s.code)}
      <section class="mt-4 break-inside-avoid">
        <h2 class="text-lg">{s.name}</h2>
        {#each s.saved.blocks as block (block.title)}
          <table class="mb-1 w-full text-left text-sm">
            <thead>
              <tr class="border-b border-black"
                >{#each block.columns as column (column)}<th class="pr-3">{column}</th>{/each}</tr
              >
            </thead>
            <tbody>
              {#each block.rows as row, i (i)}
                <tr class="border-b border-neutral-300 align-top">
                  {#each row as cell, j (j)}<td class="py-0.5 pr-3"><SentenceLine sentence={cell} inline /></td>{/each}
                </tr>
              {/each}
            </tbody>
          </table>
          {#if block.note}<p class="text-xs text-neutral-600">{block.note}</p>{/if}
        {/each}
        {#each s.saved.sentences as sentence, i (i)}<div class="text-sm"><SentenceLine {sentence} /></div>{/each}
        {#if s.saved.now}
          <p class="mt-1 text-xs text-neutral-600">
            Computed by the rules of {s.saved.rulesVersion}. By today’s rules: {s.saved.now
              .map((n) => n.spans.map((p) => p.text).join(""))
              .join(" ")}
          </p>
        {/if}
      </section>
    {/each}
    {#if doc.photos.length}
      <h2 class="mt-4 text-lg">Photos</h2>
      <div class="grid grid-cols-3 gap-3 max-sm:grid-cols-2">
        {#each doc.photos as photo (photo.id)}
          <figure class="break-inside-avoid">
            <img src={photoAddress(photo)} alt="" width={photo.width} height={photo.height} class="h-auto w-full" />
            <figcaption class="text-sm">{photo.part}</figcaption>
          </figure>
        {/each}
      </div>
    {/if}
    {#if agreement?.strokes?.length}
      <div class="max-w-80">
        <Signature strokes={agreement.strokes} disabled onchange={() => undefined} />
        <p class="text-sm">{agreement.name}</p>
      </div>
    {/if}

    {#if doc.steps.some((s) => s.saved && (s.saved.note || s.saved.status === "skipped")) || Object.keys(visit.leftOut).length}
      <h2 class="mt-4 text-lg">Notes</h2>
      {#each doc.steps as s (s.code)}
        {#if s.saved?.status === "skipped"}<p class="text-sm">
            <strong>{s.name}</strong> skipped: {s.saved.reason}.
          </p>{/if}
        {#if s.saved?.note}<p class="text-sm"><strong>{s.name}.</strong> {s.saved.note}</p>{/if}
      {/each}
      {#each Object.entries(visit.leftOut) as [what, why] (what)}
        <p class="text-sm">
          <strong
            >{doc.steps.flatMap((s) => s.stations).find((t) => t.code === what)?.name ?? "Parts not marked"}</strong
          >
          left out: {why}
        </p>
      {/each}
    {/if}
    {#each doc.clearedSince as { stop, sentence, clearedOn } (stop.id)}
      <p class="mt-1 text-sm">
        <strong>Cleared {day(clearedOn!)} by {stop.clearedBy}:</strong>
        {sentence}
        {stop.clearedWhat} Re-test: {stop.clearedRetest}
      </p>
    {/each}
    {#each doc.additions as added (added.id)}
      <p class="mt-1 text-sm"><strong>Added {dayOf(added.writtenAt)} by {added.writtenBy}:</strong> {added.text}</p>
    {/each}

    <section class="mt-4 break-inside-avoid">
      <h2 class="text-lg">Cautions</h2>
      <ul class="list-disc pl-5 text-sm">
        {#each cautions as caution (caution)}<li>{caution}</li>{/each}
        {#each tables.all?.emergencies ?? [] as e (e.kind)}<li><strong>{e.name}:</strong> {e.tell}</li>{/each}
        {#if doc.contact.emergency}<li><strong>Emergency number: {doc.contact.emergency}</strong></li>{/if}
      </ul>
      {#if doc.seal}
        <p class="mt-2 text-xs text-neutral-600">
          Sealed as signed visit {doc.seal.number} of this stove: {doc.seal.hash.match(/.{8}/g)!.join(" ")}
        </p>
      {/if}
      <p class="mt-2 text-xs text-neutral-600">
        A calculation aid and a record: codes, the appliance’s manual and the inspector of the place decide.
      </p>
    </section>
  </article>
{:else if !failed}
  <p class="p-6"><span class="loading loading-dots" aria-label="Loading"></span></p>
{/if}
