<script lang="ts">
  import type { Schema } from "../api/client";
  import Choices from "../components/Choices.svelte";
  import NumberField from "../components/NumberField.svelte";
  import { tables } from "../tables.svelte";
  import Reckoning from "../visits/Reckoning.svelte";
  import type { Step, VisitState } from "../visits/visit.svelte";
  import DoorMap, { gradeWords } from "./DoorMap.svelte";

  let { visit, step, code }: { visit: VisitState; step: Step; code: string } = $props();

  type Test = Schema["StripTest"];
  const station = $derived(visit.station<Test, Schema["StripTestAnswer"]>(step.code, code)!);
  const test = $derived(station.entry);
  const answer = $derived(station.answer);
  const { errors } = $derived(station);
  const set = (change: Partial<Test>) => station.set(change);
  $effect(() => station.reckon(undefined, true));

  const glass = $derived(code === "door-strips" && visit.doc.section.pieces.some((p) => p.code === "glass"));
  let picked = $state<string | null>(null);
  const spots = $derived(answer?.spots ?? []);
  const added = (code: string) => (code.startsWith("more-") ? Number(code.slice(5)) - 1 : -1);
  const gradeOf = (code: string) =>
    added(code) >= 0 ? (test.more?.[added(code)]?.grade ?? null) : (test.grades?.[code] ?? null);
  // The point that is next: the one that was picked, else the first without a grade.
  const at = $derived(picked ?? spots.find((s) => gradeOf(s.code) === null)?.code ?? null);
  const spot = $derived(spots.find((s) => s.code === at) ?? null);
  const number = $derived(spots.findIndex((s) => s.code === at) + 1);
  const refused = $derived(
    [`grades.${at}`, `more[${added(at ?? "")}].grade`, "grades", "more"].flatMap((field) => errors(field)),
  );

  // A grade goes on to the next point round the door that has none.
  function grade(value: number) {
    const current = at;
    if (!current || !visit.writable) return;
    const here = spots.findIndex((s) => s.code === current);
    const next = [...spots.slice(here + 1), ...spots.slice(0, here)].find((s) => gradeOf(s.code) === null);
    const i = added(current);
    if (i >= 0) set({ more: test.more!.map((m, k) => (k === i ? { ...m, grade: value } : m)) });
    else set({ grades: { ...test.grades, [current]: value } });
    picked = next?.code ?? current;
  }

  function press(event: KeyboardEvent) {
    if (event.ctrlKey || event.metaKey || event.altKey) return;
    const by = { ArrowRight: 1, ArrowDown: 1, ArrowLeft: -1, ArrowUp: -1 }[event.key];
    const value = ["0", "1", "2", "3"].indexOf(event.key);
    if (value >= 0) grade(value);
    else if (by && spots.length) picked = spots[(number - 1 + by + spots.length) % spots.length]!.code;
    else return;
    event.preventDefault();
    event.stopPropagation();
  }

  // Half way to the next point, on its side.
  function addPoint() {
    if (!answer || !spot) return;
    const next = spots[number % spots.length]!;
    const round = answer.perimeterM;
    const way = next.atM > spot.atM ? next.atM - spot.atM : next.atM + round - spot.atM;
    const side = [spot.place, next.place].find((p) => !p.includes("-")) ?? spot.place;
    const more = test.more ?? [];
    set({ more: [...more, { place: side, atM: (spot.atM + way / 2) % round, grade: null }] });
    picked = `more-${more.length + 1}`;
  }

  function again() {
    set({ grades: {}, more: (test.more ?? []).map((m) => ({ ...m, grade: null })) });
    picked = null;
  }
</script>

<section aria-labelledby="strips">
  <h3 id="strips" class="sr-only">{station.name}</h3>
  {#if answer}<DoorMap {answer} {at} {glass} onpick={(code) => (picked = code)} />{/if}
  <p class="mt-2 font-semibold" aria-live="polite" data-point>
    {#if spot}Point {number} of {spots.length}, {spot.name}{:else if spots.length}All {spots.length} points are pulled{/if}
    {#if spot?.other != null}<span class="text-quiet font-normal">{answer?.other?.when}: {spot.other}</span>{/if}
  </p>
  <!-- svelte-ignore a11y_no_noninteractive_element_interactions -->
  <div role="group" aria-label="Grade of this point" class="mt-2 grid grid-cols-4 gap-2" onkeydown={press}>
    {#each gradeWords as word, value (value)}
      <button
        type="button"
        class="btn h-auto min-h-16 flex-col gap-0 px-1 {at && gradeOf(at) === value
          ? 'outline-base-content font-bold outline-2'
          : ''}"
        aria-pressed={at !== null && gradeOf(at) === value}
        disabled={!visit.writable || !spot}
        onclick={() => grade(value)}
        ><span class="text-lg font-bold">{value}</span><span class="text-sm">{word}</span></button
      >
    {/each}
  </div>
  {#each refused as sentence, n (n)}<p class="text-error mt-1 text-sm">{sentence}</p>{/each}
  <p class="text-quiet mt-1 text-sm max-sm:hidden">
    With the focus on a grade the keys 0 to 3 grade and go on; the arrows go round the door.
  </p>
  <div class="mt-2 flex flex-wrap gap-2">
    <button type="button" class="btn btn-sm min-h-11" disabled={!visit.writable || !spot} onclick={addPoint}
      >Add a point after this one</button
    >
    <button type="button" class="btn btn-sm min-h-11" disabled={!visit.writable || !answer?.strip} onclick={again}
      >Pull all strips again</button
    >
  </div>
  <div class="mt-4 grid grid-cols-[auto_1fr] items-center gap-x-3 gap-y-3 text-sm">
    <span class="text-quiet">Rope</span>
    <div>
      <Choices
        label="State of the rope"
        options={tables.words("ropeState")}
        value={test.rope ?? answer?.rope ?? "springy"}
        disabled={!visit.writable}
        onchange={(rope) => set({ rope: rope as Test["rope"] })}
      />
    </div>
    <span class="text-quiet">Latch has travel left</span>
    <div>
      <Choices
        label="Latch has travel left"
        options={[
          { code: "yes", name: "Yes" },
          { code: "no", name: "At its end" },
        ]}
        value={(test.latchAtEnd ?? answer?.latchAtEnd) ? "no" : "yes"}
        disabled={!visit.writable}
        onchange={(left) => set({ latchAtEnd: left === "no" })}
      />
    </div>
  </div>
  <div class="mt-4 grid grid-cols-2 gap-x-4 gap-y-4 max-sm:grid-cols-1">
    {#each [{ field: "widthM", label: "Width of the seal" }, { field: "heightM", label: "Height of the seal" }] as const as size (size.field)}
      <NumberField
        id={size.field}
        label={size.label}
        quantity="bore"
        value={test[size.field] ?? null}
        last={answer?.[size.field] ?? null}
        lastWord="taken as"
        errors={errors(size.field)}
        disabled={!visit.writable}
        onchange={(value) => set({ [size.field]: value })}
      />
    {/each}
  </div>
  <Reckoning reckoner={station.reckoner} assumed={answer?.assumed ?? []}>
    {#snippet picture()}
      {#if answer?.strip}
        {@const round = answer.perimeterM}
        {@const { l0M, l1M } = answer.strip}
        <div
          class="bg-base-300 mt-1 flex h-3 overflow-hidden"
          role="img"
          aria-label="Of {tables.show(round, 'length')} round the door {tables.show(l0M, 'length')} leak, {tables.show(
            l1M,
            'length',
          )} are doubtful"
        >
          <div class="bg-error" style:width="{(l0M / round) * 100}%"></div>
          <div class="bg-warning" style:width="{(l1M / round) * 100}%"></div>
        </div>
        <p class="text-quiet flex justify-between text-sm">
          <span>leaking {tables.show(l0M, "length")}</span>
          <span>doubtful {tables.show(l1M, "length")}</span>
          <span>tight or not pulled {tables.show(round - l0M - l1M, "length")}</span>
        </p>
      {/if}
    {/snippet}
  </Reckoning>
</section>
