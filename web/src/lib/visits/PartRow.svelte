<script lang="ts">
  import { day } from "../dates";
  import { tables } from "../tables.svelte";
  import type { Schema } from "../api/client";
  import Choices from "../components/Choices.svelte";
  import Mark from "../components/Mark.svelte";
  import type { FindingValue, VisitState } from "./visit.svelte";

  interface Props {
    visit: VisitState;
    step: string;
    mark: Schema["PartMark"];
  }
  let { visit, step, mark }: Props = $props();

  const key = $derived(`${step}/${mark.code}`);
  const finding = $derived(visit.findings[key]);
  const condition = $derived(finding?.value.condition || null);
  const earlier = $derived(visit.earlierFinding(step, mark.code));
  const reasons = $derived(
    (tables.all?.stopReasons ?? []).filter((r) => r.parts.length === 0 || r.parts.includes(mark.code)),
  );
  // Each part has words of its own: smoke at the door is never worn out.
  const options = $derived(
    tables
      .words("condition")
      .filter((c) => (mark.words ?? []).some((w) => w === c.code))
      .map((c) => ({ ...c, name: tables.conditionOf(mark.code, c.code) })),
  );
  const takeBackMs = 10_000;
  const asksNote = $derived(condition !== null && condition !== "sound");
  const stored = $derived(finding?.state === "stale" ? finding.stored : null);

  function pick(code: string) {
    const touched = visit.finding(step, mark.code);
    touched.value.covers = null;
    // Unsafe stops the stove: nothing is sent until somebody has said why, and then it can be taken back for ten seconds.
    if (code === "unsafe") {
      touched.value.condition = "unsafe";
      touched.value.stopCode = null;
      touched.hold();
      return;
    }
    visit.mark(step, mark.code, code as FindingValue["condition"]);
  }

  // The visit has one word for a part: that it takes another step's place is said knowingly.
  const covered = $derived(finding?.state === "refused" ? (finding.covered ?? null) : null);
  function mean() {
    finding!.value.covers = covered as FindingValue["covers"];
    finding!.changed();
  }
</script>

<div class="border-base-300 border-b py-3" data-part={mark.code}>
  <div class="flex flex-wrap items-center gap-x-3 gap-y-1">
    <span class="w-36 font-semibold" id="part-{mark.code}">{mark.name}</span>
    <Choices
      labelledby="part-{mark.code}"
      {options}
      value={condition}
      disabled={!visit.writable}
      digits
      onchange={pick}
    >
      {#snippet before(code)}<Mark condition={code} />{/snippet}
    </Choices>
  </div>
  {#if earlier}
    <p class="text-quiet mt-1 text-sm">
      {day(visit.doc.earlier!.day)}: <Mark condition={earlier.condition} />
      {tables.word("condition", earlier.condition)}{earlier.note ? `, ${earlier.note}` : ""}
    </p>
  {/if}
  {#if finding && asksNote}
    <div class="mt-2 flex flex-wrap gap-2">
      {#if condition === "unsafe"}
        <select
          class="select min-h-11 grow"
          aria-label="What makes it unsafe"
          disabled={!visit.writable}
          bind:value={finding.value.stopCode}
          onchange={() => finding.changed(takeBackMs)}
        >
          <option value={null} disabled>Say why: nothing is stopped before</option>
          {#each reasons as reason (reason.code)}<option value={reason.code}>{reason.sentence}</option>{/each}
        </select>
        {#if finding.state === "typing" && visit.writable}
          <button type="button" class="btn min-h-11" onclick={() => visit.takeBack(key)}>Take it back</button>
        {/if}
      {/if}
      <input
        class="input min-h-11 grow"
        aria-label={condition === "not-seen" ? `Why ${mark.name} was not seen` : `Note on ${mark.name}`}
        placeholder={condition === "not-seen" ? "Say why" : "Note"}
        disabled={!visit.writable}
        bind:value={finding.value.note}
        oninput={() => finding.changed()}
      />
      {#if condition === "wearing"}
        <label class="text-quiet flex items-center gap-1 text-sm"
          >look again <input
            type="date"
            class="input min-h-11 w-40"
            disabled={!visit.writable}
            bind:value={finding.value.lookAgain}
            onchange={() => finding.changed()}
          /></label
        >
      {/if}
    </div>
  {/if}
  {#if finding}
    {#each Object.values(finding.errors).flat() as sentence, n (n)}<p class="text-error text-sm">
        {sentence}
      </p>{/each}
    {#if covered}
      <button type="button" class="btn btn-sm mt-1 min-h-11" onclick={mean}
        >Yes, {tables.word("condition", finding.value.condition).toLowerCase()} now</button
      >
      <button type="button" class="btn btn-sm mt-1 min-h-11" onclick={() => visit.dropFinding(key)}
        >No, {tables.word("condition", covered).toLowerCase()} stands</button
      >
    {/if}
  {/if}
  {#if finding && stored}
    <div role="alert" class="border-primary mt-1 flex flex-wrap items-center gap-2 border-l-4 px-3 py-1">
      <p>
        {stored.savedBy} marked it {tables.word("condition", stored.condition)} in between{stored.note
          ? `: ${stored.note}`
          : ""}.
      </p>
      <button class="btn btn-sm min-h-11" onclick={() => finding.resolve(finding.value)}
        >Stay with {tables.word("condition", finding.value.condition)}</button
      >
      <button
        class="btn btn-sm min-h-11"
        onclick={() =>
          finding.resolve({
            ...finding.value,
            condition: stored.condition as FindingValue["condition"],
            note: stored.note,
            stopCode: stored.stopCode,
            lookAgain: stored.lookAgain,
          })}>{tables.word("condition", stored.condition)} it is</button
      >
    </div>
  {/if}
</div>
