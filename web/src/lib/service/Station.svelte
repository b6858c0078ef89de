<script lang="ts">
  import ColdChecks from "../flue/ColdChecks.svelte";
  import SweepDeposits from "../deposits/SweepDeposits.svelte";
  import HotDraft from "../flue/HotDraft.svelte";
  import WoodFound from "../fuel/WoodFound.svelte";
  import TopCheck from "../flue/TopCheck.svelte";
  import DueTasks from "./DueTasks.svelte";
  import MergeOffer from "./MergeOffer.svelte";
  import NextStation from "./NextStation.svelte";
  import PartRow from "./PartRow.svelte";
  import SaveLine from "./SaveLine.svelte";
  import type { Step, VisitState } from "./visit.svelte";

  let { visit, step, onnext }: { visit: VisitState; step: Step; onnext: () => void } = $props();

  const saver = $derived(visit.steps[step.code]!);
  let skipping = $state(false);
  const marked = $derived(step.parts.filter((p) => visit.condition(p.code)).length);

  function set(change: Partial<typeof saver.value>) {
    Object.assign(saver.value, change);
    saver.changed();
  }

  function done() {
    skipping = false;
    set({ status: "done", reason: "" });
    onnext();
  }

  function skip() {
    if (saver.value.reason.trim() === "") return;
    skipping = false;
    set({ status: "skipped" });
    onnext();
  }
</script>

<section aria-labelledby="station">
  <div class="flex flex-wrap items-baseline gap-x-3">
    <h2 id="station" class="text-xl">{step.code === "hot-test" ? "Hot draft" : step.name}</h2>
    <span class="text-quiet text-sm">step {step.number} of 12</span>
    <span class="ml-auto"><SaveLine {visit} /></span>
  </div>
  {#if step.code !== "hot-test"}<p class="text-quiet mb-2">{step.guide}</p>{/if}
  {#if saver.state === "stale" && saver.stored}<MergeOffer {saver} />{/if}

  {#if step.code === "hot-test"}
    <HotDraft {visit} onnext={done} />
  {:else if step.code === "booking"}
    <p><span class="text-quiet">Purpose:</span> {visit.doc.visit.purpose}</p>
    {#if visit.doc.visit.complaint}<p><span class="text-quiet">Complaint:</span> {visit.doc.visit.complaint}</p>{/if}
    <p><span class="text-quiet">Phone:</span> {visit.doc.stove.phone || "none noted"}</p>
    <h3 class="mt-3">What is due</h3>
    <DueTasks due={visit.doc.due} />
  {:else if step.code === "arrive"}
    <WoodFound {visit} />
  {:else if step.code === "cold-checks"}
    <ColdChecks {visit} />
  {:else if step.code === "sweep"}
    <SweepDeposits {visit} />
    <TopCheck {visit} />
  {:else if step.code === "next"}
    <NextStation {visit} />
  {/if}

  {#each step.parts as part (part.code)}<PartRow {visit} part={part.code} name={part.name} />{/each}
  {#if step.parts.length}
    <p class="text-quiet mt-2 text-sm">{marked} of {step.parts.length} parts marked.</p>
  {/if}

  {#if step.caution}
    <p class="border-primary mt-3 border-l-4 pl-3 text-sm">{step.caution}</p>
  {/if}
  <label class="mt-3 block">
    <span class="text-quiet text-sm">Notes</span>
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
    <div class="mt-3 flex flex-wrap items-center gap-2">
      {#if step.code !== "hot-test"}<button class="btn btn-primary" onclick={done}>Done, next step</button>{/if}
      {#if skipping}
        <input
          class="input grow"
          aria-label="Reason for skipping"
          placeholder="Say why"
          maxlength="500"
          value={saver.value.reason}
          oninput={(e) => (saver.value.reason = e.currentTarget.value)}
          onkeydown={(e) => e.key === "Enter" && skip()}
        />
        <button class="btn" onclick={skip} disabled={saver.value.reason.trim() === ""}>Skip it</button>
      {:else}
        <button class="btn" onclick={() => (skipping = true)}>Skip with a reason</button>
      {/if}
      {#if saver.value.status === "skipped"}<span class="text-quiet text-sm">Skipped: {saver.value.reason}</span>{/if}
    </div>
  {/if}
</section>
