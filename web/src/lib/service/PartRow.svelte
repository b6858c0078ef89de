<script lang="ts">
  import { day } from "../dates";
  import { tables } from "../tables.svelte";
  import Mark from "../components/Mark.svelte";
  import { conditions, type VisitState } from "./visit.svelte";

  let { visit, part, name }: { visit: VisitState; part: string; name: string } = $props();

  const finding = $derived(visit.findings[part]);
  const condition = $derived(finding?.value.condition || null);
  const earlier = $derived(visit.earlierFinding(part));
  const reasons = $derived(
    (tables.all?.stopReasons ?? []).filter((r) => r.parts.length === 0 || r.parts.includes(part)),
  );
  const asksNote = $derived(condition !== null && condition !== "sound");

  function changed() {
    if (!finding) return;
    // Unsafe needs its reason and not seen its why before they can be saved.
    finding.changed();
  }

  function mark(code: string) {
    const touched = visit.finding(part);
    if (code === "unsafe" && !touched.value.stopCode) touched.value.stopCode = reasons[0]?.code ?? "other";
    visit.mark(part, code);
  }
</script>

<div class="border-base-300 border-b py-2" data-part={part}>
  <div class="flex flex-wrap items-center gap-x-3 gap-y-1">
    <span class="w-36 font-semibold" id="part-{part}">{name}</span>
    <div role="radiogroup" aria-labelledby="part-{part}" class="flex flex-wrap gap-1">
      {#each conditions as c, i (c.code)}
        <button
          type="button"
          role="radio"
          aria-checked={condition === c.code}
          disabled={!visit.writable}
          title="{c.name} ({i + 1})"
          class="border-base-300 flex cursor-pointer items-center gap-1.5 rounded-lg border px-2.5 py-2 text-sm disabled:cursor-default {condition ===
          c.code
            ? 'border-base-content bg-base-200 font-bold'
            : 'text-quiet'}"
          onclick={() => mark(c.code)}
          onkeydown={(e) => {
            const picked = conditions[Number(e.key) - 1];
            if (picked && visit.writable) mark(picked.code);
          }}><Mark condition={c.code} />{c.name}</button
        >
      {/each}
    </div>
  </div>
  {#if earlier}
    <p class="text-quiet text-sm">
      {day(visit.doc.earlier!.visit.plannedStart)}: <Mark condition={earlier.condition} />
      {conditions.find((c) => c.code === earlier.condition)?.name}{earlier.note ? `, ${earlier.note}` : ""}
    </p>
  {/if}
  {#if finding && asksNote}
    <div class="mt-1 flex flex-wrap gap-2">
      {#if condition === "unsafe"}
        <select
          class="select grow"
          aria-label="What makes it unsafe"
          disabled={!visit.writable}
          bind:value={finding.value.stopCode}
          onchange={changed}
        >
          {#each reasons as reason (reason.code)}<option value={reason.code}>{reason.sentence}</option>{/each}
        </select>
      {/if}
      <input
        class="input grow"
        aria-label={condition === "not-seen" ? `Why ${name} was not seen` : `Note on ${name}`}
        placeholder={condition === "not-seen" ? "Say why" : "Note"}
        disabled={!visit.writable}
        bind:value={finding.value.note}
        oninput={changed}
      />
      {#if condition === "wearing"}
        <label class="text-quiet flex items-center gap-1 text-sm"
          >look again <input
            type="date"
            class="input w-40"
            disabled={!visit.writable}
            bind:value={finding.value.lookAgain}
            onchange={changed}
          /></label
        >
      {/if}
    </div>
    {#each Object.values(finding.errors).flat() as sentence (sentence)}<p class="text-error text-sm">
        {sentence}
      </p>{/each}
  {/if}
  {#if finding?.state === "stale" && finding.stored}
    <div role="alert" class="border-primary mt-1 flex flex-wrap items-center gap-2 border-l-4 px-3 py-1">
      <p>
        {finding.stored.savedBy} marked it {conditions.find((c) => c.code === finding.stored!.condition)?.name} in between{finding
          .stored.note
          ? `: ${finding.stored.note}`
          : ""}.
      </p>
      <button class="btn btn-sm" onclick={() => finding.resolve(finding.value)}>Keep mine</button>
      <button
        class="btn btn-sm"
        onclick={() =>
          finding.resolve({
            ...finding.value,
            condition: finding.stored!.condition,
            note: finding.stored!.note,
            stopCode: finding.stored!.stopCode,
          })}>Take theirs</button
      >
    </div>
  {/if}
</div>
