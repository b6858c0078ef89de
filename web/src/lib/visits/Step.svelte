<script lang="ts">
  import ToConfirm from "../books/ToConfirm.svelte";
  import { goto } from "$app/navigation";
  import HouseholdLink from "../household/HouseholdLink.svelte";
  import HouseholdNotes from "../household/HouseholdNotes.svelte";
  import DueTasks from "../service/DueTasks.svelte";
  import FittedParts from "../stock/FittedParts.svelte";
  import Tick from "../components/Tick.svelte";
  import { loadedOn } from "../service/loaded.svelte";
  import PartsMissing from "../stock/PartsMissing.svelte";
  import MergeOffer from "./MergeOffer.svelte";
  import NextStep from "./NextStep.svelte";
  import PartRow from "./PartRow.svelte";
  import SaveLine from "./SaveLine.svelte";
  import { views } from "./views";
  import type { Step, VisitState } from "./visit.svelte";

  interface Props {
    visit: VisitState;
    step: Step;
    /** The station that is open, where a step has several. */
    open: string | null;
    ondone: () => void;
  }
  let { visit, step, open, ondone }: Props = $props();

  const saver = $derived(visit.steps[step.code]!);
  const loaded = $derived(loadedOn(visit.doc.visit.day));
  // Its own stations, and those of earlier steps that are shown here once more.
  const stations = $derived([
    ...step.stations.map((s) => ({ ...s, of: step })),
    ...visit.doc.steps.flatMap((of) => of.stations.filter((s) => s.againIn === step.code).map((s) => ({ ...s, of }))),
  ]);
  const station = $derived(stations.find((s) => s.code === open) ?? stations[0] ?? null);
  const recorded = $derived(station ? visit.stations[`${station.of.code}/${station.code}`]! : null);
  const View = $derived(station ? views.get(station.code) : undefined);
  const marked = $derived(step.marks.filter((m) => visit.conditionIn(step.code, m.code)).length);
  let skipping = $state(false);

  const stationState = (of: string, code: string) => {
    const at = visit.stations[`${of}/${code}`]!;
    return at.saver.state === "refused" ? "refused" : at.touched ? "recorded" : "open";
  };

  function set(change: Partial<typeof saver.value>) {
    Object.assign(saver.value, change);
    saver.changed();
  }

  function done() {
    skipping = false;
    set({ status: "done", reason: "" });
    ondone();
  }

  function skip() {
    if (saver.value.reason.trim() === "") return;
    skipping = false;
    set({ status: "skipped" });
    ondone();
  }
</script>

{#snippet manual()}
  {#if visit.doc.stove.label?.manual}<p class="border-primary mb-3 border-l-4 pl-3">
      <span class="text-quiet">Its manual asks:</span>
      {visit.doc.stove.label.manual}
    </p>{/if}
{/snippet}

<section aria-labelledby="step-name">
  <div class="flex flex-wrap items-baseline gap-x-3">
    <h2 id="step-name" class="text-xl outline-none" tabindex="-1">{step.name}</h2>
    <span class="text-quiet text-sm">step {step.number} of 12</span>
    <span class="ml-auto"><SaveLine {visit} /></span>
  </div>
  <p class="text-quiet mb-4">{step.guide}</p>
  {#if saver.state === "stale" && saver.stored}
    <MergeOffer
      saver={saver as never}
      mine={saver.value}
      theirs={saver.stored}
      take={(from) => ({
        ...saver.value,
        ...(from === "theirs"
          ? { status: saver.stored!.status as typeof saver.value.status, reason: saver.stored!.reason }
          : {}),
        note:
          from === "both"
            ? [saver.stored!.note, saver.value.note].filter(Boolean).join("\n")
            : from === "theirs"
              ? saver.stored!.note
              : saver.value.note,
      })}
      both
    />
  {/if}

  {#if step.code === "booking"}
    <p><span class="text-quiet">Purpose:</span> {visit.doc.visit.row.purpose}</p>
    {#if visit.doc.visit.row.complaint}<p>
        <span class="text-quiet">Complaint:</span>
        {visit.doc.visit.row.complaint}
      </p>{/if}
    <p><span class="text-quiet">Phone:</span> {visit.doc.customer.phone || "none noted"}</p>
    <h3 class="mt-7">What is due</h3>
    <DueTasks due={visit.doc.due} />
    <HouseholdNotes stoveId={visit.doc.stove.id} />
  {:else if step.code === "arrive"}
    {@render manual()}
    <ToConfirm stoveId={visit.doc.stove.id} customerId={visit.doc.customer.id} writable={visit.writable} />
  {:else if step.code === "load"}
    {@render manual()}
    <PartsMissing visitId={visit.id} />
    <h3>For this visit</h3>
    <ul>
      {#each visit.doc.van as item (item.what)}
        <li class="border-base-300 border-b">
          <Tick label={item.what} checked={loaded.has(item.what)} onchange={(on) => loaded.tick(item.what, on)} />
          <span class="text-quiet block pb-2 pl-9 text-sm">{item.why}</span>
        </li>
      {/each}
    </ul>
  {:else if step.code === "back-together"}
    <FittedParts stoveId={visit.doc.stove.id} />
  {:else if step.code === "next"}
    <NextStep {visit} />
    <HouseholdLink stoveId={visit.doc.stove.id} />
  {/if}

  {#if stations.length > 1}
    <nav aria-label="Stations of this step" class="border-base-300 mb-4 flex flex-wrap gap-x-5 border-b">
      {#each stations as s (s.code)}
        <a
          href="/visits/{visit.id}/{step.code}/{s.code}"
          data-sveltekit-noscroll
          aria-current={s.code === station?.code ? "true" : undefined}
          class="aria-[current]:border-base-content -mb-px flex min-h-11 items-center gap-2 border-b-2 border-transparent aria-[current]:font-bold"
        >
          <span aria-hidden="true" class="text-sm"
            >{{ open: "○", recorded: "●", refused: "!" }[stationState(s.of.code, s.code)]}</span
          >
          {s.name}<span class="sr-only">, {stationState(s.of.code, s.code)}</span>
        </a>
      {/each}
    </nav>
  {/if}
  {#if recorded && recorded.saver.state === "stale" && recorded.saver.stored}
    <MergeOffer
      saver={recorded.saver as never}
      mine={recorded.entry}
      theirs={recorded.saver.stored.entry}
      by={recorded.saver.stored.savedBy}
      names={visit.pieceNames}
      take={(from) => (from === "theirs" ? recorded.saver.stored!.entry : recorded.entry)}
    />
  {/if}
  {#key recorded}
    {#if View}<View {visit} step={station!.of} again={station!.of !== step} code={station!.code} />{:else if station}<p
        class="text-quiet"
      >
        {station.name} is not shown in this version: load the page again.
      </p>{/if}
  {/key}
  {#if recorded?.saver.state === "refused"}
    <p role="alert" class="text-error mt-2 text-sm">Not saved: {recorded.refusals.join(" ")}</p>
  {/if}

  {#if step.marks.length}
    <div class="mt-7 flex flex-wrap items-center gap-3">
      <h3>Look and mark</h3>
      <span class="text-quiet text-sm">{marked} of {step.marks.length} marked</span>
      {#if visit.writable && marked < step.marks.length}
        <button class="btn btn-sm ml-auto min-h-11" onclick={() => visit.restSound(step)}
          >{marked === 0 ? "All sound" : "Rest sound"}</button
        >
      {/if}
    </div>
    {#each step.marks as mark (mark.code)}<PartRow {visit} step={step.code} {mark} />{/each}
  {/if}

  {#if step.caution}
    <p class="border-base-content mt-4 border-l-4 pl-3 text-sm">{step.caution}</p>
  {/if}
  <label class="mt-4 block">
    <span class="text-quiet mb-1 block text-sm">Notes</span>
    <textarea
      class="textarea w-full"
      rows="2"
      maxlength="5000"
      disabled={!visit.writable}
      value={saver.value.note}
      oninput={(e) => set({ note: e.currentTarget.value })}></textarea>
  </label>
  {#if step.earlierNote}<p class="text-quiet text-sm">Last visit: {step.earlierNote}</p>{/if}
  {#if saver.state === "refused"}
    {#each Object.entries(saver.errors) as [field, sentences] (field)}<p class="text-error text-sm">
        {sentences.join(" ")}
      </p>{/each}
  {/if}

  {#if visit.writable && step.code !== "next"}
    <div class="bg-base-100 border-base-300 sticky bottom-0 z-10 mt-4 flex flex-wrap items-center gap-2 border-t py-3">
      <button class="btn btn-primary min-h-11" onclick={done}>Done, next step</button>
      {#if skipping}
        <input
          class="input min-h-11 grow"
          aria-label="Reason for skipping"
          placeholder="Say why"
          maxlength="500"
          value={saver.value.reason}
          oninput={(e) => (saver.value.reason = e.currentTarget.value)}
          onkeydown={(e) => e.key === "Enter" && skip()}
        />
        <button class="btn min-h-11" onclick={skip} disabled={saver.value.reason.trim() === ""}>Skip it</button>
      {:else}
        <button class="btn min-h-11" onclick={() => (skipping = true)}>Skip with a reason</button>
      {/if}
      {#if saver.value.status === "skipped"}<span class="text-quiet text-sm">Skipped: {saver.value.reason}</span>{/if}
    </div>
  {:else if !visit.writable && step.code !== "next"}
    <button class="btn mt-4" onclick={() => void goto(`/report/${visit.id}`)}>Report</button>
  {/if}
</section>
