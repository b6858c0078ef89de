<script lang="ts">
  import type { Schema } from "../api/client";
  import Choices from "../components/Choices.svelte";
  import NumberField from "../components/NumberField.svelte";
  import Tick from "../components/Tick.svelte";
  import TextField from "../components/TextField.svelte";
  import { tables } from "../tables.svelte";
  import Photos from "../visits/Photos.svelte";
  import Reckoning from "../visits/Reckoning.svelte";
  import type { Step, VisitState } from "../visits/visit.svelte";

  // `again`: in Back together, where the list is played backwards.
  let { visit, step, again = false }: { visit: VisitState; step: Step; again?: boolean } = $props();

  type Item = Schema["ApartItem"];
  const station = $derived(visit.station<Schema["StripDown"], Schema["StripDownAnswer"]>(step.code, "strip-down")!);
  const items = $derived<Item[]>(station.entry.items ?? []);
  const { errors } = $derived(station);
  $effect(() => station.reckon(undefined, true));

  let picked = $state<number | null>(null);
  let other = $state("");
  const list = $derived(station.answer?.list ?? null);
  // What the list names and is not out yet, in its order.
  const next = $derived(list?.items.filter((p) => !items.some((i) => i.part === p.part)) ?? []);
  const way = $derived(
    station.answer?.wayBack.length === items.length
      ? station.answer.wayBack
      : items.map((_, i) => items.length - 1 - i),
  );

  const out = (item: Item) => station.set({ items: [...items, { ...item, back: false, ordered: false }] });
  const change = (at: number, to: Partial<Item>) =>
    station.set({ items: items.map((item, i) => (i === at ? { ...item, ...to } : item)) });
  function take(event: Event) {
    event.preventDefault();
    if (other.trim() === "") return;
    out({ part: other.trim(), back: false, ordered: false });
    other = "";
  }
  // Tapped in the drawing: the next of its name in the list, or one that the list does not know.
  function tapped(part: string) {
    const name = tables.partName(part).toLowerCase();
    const item = next.find((p) => p.part!.includes(name));
    if (item) out(item);
    else if (!items.some((i) => i.part!.includes(name))) out({ part: name, back: false, ordered: false });
  }
  $effect(() => {
    if (again || !visit.writable) return;
    visit.takesPart = tapped;
    return () => (visit.takesPart = null);
  });
  function drop(at: number) {
    station.set({ items: items.filter((_, i) => i !== at) });
    picked = null;
  }
</script>

{#snippet photos(item: Item)}
  {#if item.part}
    <div class="my-1"><Photos {visit} step={step.code} station="strip-down" part={item.part} /></div>
  {/if}
{/snippet}

<section aria-labelledby="strip-down">
  <h3 id="strip-down" class="sr-only">Parts out and back</h3>
  {#if again}
    {#if items.length === 0}<p class="text-quiet">Nothing was recorded as taken out.</p>{/if}
    <ol aria-label="Back in this order">
      {#each way as at (at)}
        {@const item = items[at]!}
        <li class="border-base-300 flex flex-wrap items-center gap-x-4 border-b py-1">
          <label class="flex min-h-11 grow items-center gap-3"
            ><input
              type="checkbox"
              class="checkbox"
              checked={item.back}
              disabled={!visit.writable}
              onchange={(e) => change(at, { back: e.currentTarget.checked, ordered: false })}
            />
            <span
              ><span class="font-semibold">{item.part}</span>{item.label ? `, ${item.label}` : ""}<span
                class="text-quiet block text-sm"
                >{[item.fixing ? tables.word("fixing", item.fixing).toLowerCase() : "", item.tool, item.caution]
                  .filter(Boolean)
                  .join("; ")}</span
              ></span
            >
          </label>
          {#if item.count}
            <NumberField
              id="in-{at}"
              label="Of {item.count} went in"
              quantity="count"
              value={item.countIn ?? null}
              compact
              errors={errors(`items[${at}].countIn`)}
              disabled={!visit.writable}
              onchange={(countIn) => change(at, { countIn: countIn === null ? null : Math.round(countIn) })}
            />
          {/if}
          {@render photos(item)}
          {#if !item.back}
            <label class="flex min-h-11 items-center gap-2 text-sm"
              ><input
                type="checkbox"
                class="checkbox checkbox-sm"
                checked={item.ordered}
                disabled={!visit.writable}
                onchange={(e) => change(at, { ordered: e.currentTarget.checked })}
              /> a new one is ordered</label
            >
          {/if}
        </li>
      {/each}
    </ol>
  {:else}
    {#if station.answer && station.answer.lists.length > 1}
      <label class="mb-2 block text-sm"
        ><span class="text-quiet">List that is followed</span>
        <select
          class="select min-h-11 w-full"
          value={list!.code}
          disabled={!visit.writable}
          onchange={(e) => station.set({ follows: e.currentTarget.value })}
        >
          {#each station.answer.lists as known (known.code)}<option value={known.code}
              >{known.name}: {known.items.length} parts</option
            >{/each}
        </select></label
      >
    {:else if list}
      <p class="text-quiet text-sm">Followed: {list.name}.</p>
    {/if}
    {#if next.length}
      <p class="text-quiet text-sm">
        Tap what comes out, <span class="max-lg:hidden">here or in the drawing of the stove</span><span
          class="lg:hidden">one after the other</span
        >.
      </p>
      <div class="mt-1 flex flex-wrap gap-2">
        {#each next as item, i (item.part)}
          <button
            type="button"
            class="btn min-h-11 {i === 0 ? 'btn-primary' : ''}"
            disabled={!visit.writable}
            onclick={() => out(item)}>{item.part}</button
          >
        {/each}
      </div>
    {/if}
    <form class="mt-2 flex items-end gap-2" onsubmit={take}>
      <div class="grow">
        <TextField
          id="strip-other"
          label="Another part"
          value={other}
          most={60}
          disabled={!visit.writable}
          onchange={(value) => (other = value)}
        />
      </div>
      <button class="btn min-h-11" disabled={!visit.writable || other.trim() === ""}>Out</button>
    </form>
    <ol class="mt-3" aria-label="Out, in this order">
      {#each items as item, i (i)}
        <li class="border-base-300 border-b py-1">
          <button
            type="button"
            class="flex min-h-11 w-full cursor-pointer items-center gap-3 text-left"
            aria-expanded={picked === i}
            onclick={() => (picked = picked === i ? null : i)}
          >
            <span class="measured w-6">{i + 1}</span>
            <span class="grow"><span class="font-semibold">{item.part}</span>{item.label ? `, ${item.label}` : ""}</span
            >
            <span class="text-quiet text-sm"
              >{item.fixing ? tables.word("fixing", item.fixing).toLowerCase() : ""}{item.count
                ? `, ${item.count}`
                : ""}</span
            >
          </button>
          {#if item.caution}<p class="border-base-content border-l-4 pl-3 text-sm">{item.caution}</p>{/if}
          {@render photos(item)}
          {#if picked === i}
            <div class="space-y-3 py-2">
              <Choices
                label="How it is held"
                options={tables.words("fixing")}
                value={item.fixing ?? null}
                disabled={!visit.writable}
                onchange={(fixing) => change(i, { fixing: fixing as Item["fixing"] })}
              />
              <div class="grid grid-cols-2 gap-3 max-sm:grid-cols-1">
                <NumberField
                  id="count-{i}"
                  label="Clips, screws or pins"
                  quantity="count"
                  value={item.count ?? null}
                  errors={errors(`items[${i}].count`)}
                  disabled={!visit.writable}
                  onchange={(count) => change(i, { count: count === null ? null : Math.round(count) })}
                />
                <NumberField
                  id="goes-back-{i}"
                  label="Goes back as number, if not backwards"
                  quantity="count"
                  value={item.goesBack ?? null}
                  errors={errors(`items[${i}].goesBack`)}
                  disabled={!visit.writable}
                  onchange={(goesBack) => change(i, { goesBack: goesBack === null ? null : Math.round(goesBack) })}
                />
                {#each [{ name: "tool", label: "Tool", most: 60 }, { name: "label", label: "Where it sat", most: 60 }, { name: "caution", label: "Caution", most: 120 }] as const as text (text.name)}
                  <TextField
                    id="{text.name}-{i}"
                    label={text.label}
                    most={text.most}
                    value={item[text.name] ?? ""}
                    errors={errors(`items[${i}].${text.name}`)}
                    disabled={!visit.writable}
                    onchange={(value) => change(i, { [text.name]: value || null })}
                  />
                {/each}
              </div>
              <button type="button" class="btn btn-sm min-h-11" disabled={!visit.writable} onclick={() => drop(i)}
                >It did not come out</button
              >
            </div>
          {/if}
        </li>
      {/each}
    </ol>
    {#if items.length}
      <Tick
        label="Keep this order as the list of every “{visit.doc.stove.model}”"
        checked={station.entry.forModel ?? false}
        disabled={!visit.writable}
        onchange={(forModel) => station.set({ forModel })}
      />
    {/if}
  {/if}
  {#each [...errors("items"), ...errors("follows"), ...errors("forModel")] as sentence, n (n)}<p
      class="text-error text-sm"
    >
      {sentence}
    </p>{/each}
  <Reckoning reckoner={station.reckoner} assumed={[]} />
</section>
