<script lang="ts">
  import type { Schema } from "../api/client";
  import Choices from "../components/Choices.svelte";
  import Mark from "../components/Mark.svelte";
  import NumberField from "../components/NumberField.svelte";
  import Tick from "../components/Tick.svelte";
  import { day } from "../dates";
  import { tables } from "../tables.svelte";
  import { ofThousandths, thousandths } from "../thousandths";
  import Decided from "../visits/Decided.svelte";
  import Reckoning from "../visits/Reckoning.svelte";
  import type { Step, VisitState } from "../visits/visit.svelte";
  import Unfolded from "./Unfolded.svelte";
  import WaysToRenew from "./WaysToRenew.svelte";

  let { visit, step }: { visit: VisitState; step: Step } = $props();

  type Check = Schema["LiningCheck"];
  type Brick = Schema["BrickMark"];
  type Panel = Schema["PanelEntry"];
  const station = $derived(visit.station<Check, Schema["LiningCheckAnswer"]>(step.code, "lining")!);
  const answer = $derived(station.answer);
  const { errors } = $derived(station);
  $effect(() => station.reckon(undefined, true));

  let picked = $state<string | null>(null);
  let measuring = $state(false);
  let layer = $state<"condition" | "age" | "heat">("condition");
  const bricks = $derived(answer?.panels.flatMap((p) => p.bricks) ?? []);
  const brick = $derived(bricks.find((b) => b.code === picked) ?? null);
  const panel = $derived(
    answer?.panels.find((p) => p.bricks.some((b) => b.code === picked)) ?? answer?.panels[0] ?? null,
  );
  const mark = $derived<Brick>((picked && station.entry.bricks?.[picked]) || { renewed: false });
  const typed = $derived<Panel>((panel && station.entry.panels?.[panel.place]) || {});
  const field = (name: string) => `bricks.${picked}.${name}`;

  function set(change: Partial<Brick>) {
    station.set({ bricks: { ...station.entry.bricks, [picked!]: { ...mark, ...change } } });
  }
  function setPanel(change: Partial<Panel>) {
    station.set({ panels: { ...station.entry.panels, [panel!.place]: { ...typed, ...change } } });
  }
  // Not every firebox has a lip and arches: they come, and go again, by their buttons.
  const optional = $derived(
    tables.words("panelPlace").filter((p) => ["lip", "left-arch", "right-arch"].includes(p.code)),
  );
  function setPresent(place: string, present: boolean) {
    const panels = { ...station.entry.panels };
    if (present) panels[place] = {};
    else delete panels[place];
    picked = null;
    station.set({ panels });
  }
  // Numbered as they come out: tap after tap; one that has its number already stays as it is.
  let numbering = $state(false);
  const order = $derived(station.entry.order ?? []);
  function pick(code: string) {
    if (!numbering) picked = code;
    else if (!order.includes(code)) station.set({ order: [...order, code] });
  }
  function rest() {
    const seen = station.entry.bricks ?? {};
    const left = bricks
      .filter((b) => !seen[b.code]?.state)
      .map((b) => [b.code, { renewed: false, ...seen[b.code], state: "sound" as const }]);
    station.set({ bricks: { ...seen, ...Object.fromEntries(left) } });
  }
  // More bricks in a course split one, fewer join two.
  function course(at: number, by: number) {
    setPanel({ courses: panel!.courses.map((n, i) => (i === at ? Math.min(12, Math.max(1, n + by)) : n)) });
  }
  function courses(by: number) {
    const now = panel!.courses;
    setPanel({ courses: by > 0 ? [...now, now.at(-1)!].slice(0, 12) : now.slice(0, Math.max(1, now.length - 1)) });
  }
</script>

<section aria-labelledby="lining">
  <h3 id="lining" class="sr-only">Bricks</h3>
  {#if answer}
    <Choices
      label="Layer of the firebox"
      options={[
        { code: "condition", name: "Condition" },
        { code: "age", name: "Age" },
        { code: "heat", name: "Heat stored" },
      ]}
      value={layer}
      onchange={(code) => (layer = code)}
    />
    <Unfolded panels={answer.panels} {layer} {picked} onpick={pick} />
    <div class="mt-2 flex flex-wrap gap-2">
      <button type="button" class="btn btn-sm min-h-11" disabled={!visit.writable} onclick={rest}
        >All others sound</button
      >
      <button
        type="button"
        class="btn btn-sm min-h-11"
        aria-expanded={measuring}
        onclick={() => (measuring = !measuring)}>Measure and divide</button
      >
      <button
        type="button"
        class="btn btn-sm min-h-11"
        aria-pressed={numbering}
        disabled={!visit.writable}
        onclick={() => (numbering = !numbering)}>{numbering ? "Numbers are done" : "Number as they come out"}</button
      >
      {#if numbering && order.length}
        <button
          type="button"
          class="btn btn-sm min-h-11"
          disabled={!visit.writable}
          onclick={() => station.set({ order: order.slice(0, -1) })}>Take the last number back</button
        >
      {/if}
    </div>
    {#if numbering}
      <p class="text-quiet mt-1 text-sm" role="status">
        Tap the bricks in the order they come out: the next is number {order.length + 1}.
      </p>
    {/if}
    {#if measuring && panel}
      <div class="mt-2 flex flex-wrap gap-2" role="group" aria-label="What not every firebox has">
        {#each optional as place (place.code)}
          {@const there = answer.panels.some((p) => p.place === place.code)}
          <button
            type="button"
            class="btn btn-sm min-h-11"
            aria-pressed={there}
            disabled={!visit.writable || (there && !station.entry.panels?.[place.code])}
            onclick={() => setPresent(place.code, !there)}>{place.name}</button
          >
        {/each}
      </div>
      <div class="border-primary my-3 border-l-4 pl-3">
        <h4 class="font-semibold">{panel.name}</h4>
        <p class="text-quiet text-sm">Tap a brick of another panel to measure that one.</p>
        <div class="mt-2 grid grid-cols-3 gap-x-3 gap-y-3 max-sm:grid-cols-1">
          {#each [{ name: "widthMm", label: "Width" }, { name: "heightMm", label: panel.place === "floor" ? "Depth" : "Height" }, { name: "thicknessMm", label: "Thickness" }] as const as size (size.name)}
            <NumberField
              id="panel-{size.name}"
              label={size.label}
              quantity="bore"
              value={ofThousandths(typed[size.name])}
              last={panel[size.name] / 1000}
              lastWord="taken as"
              errors={errors(`panels.${panel.place}.${size.name}`)}
              disabled={!visit.writable}
              onchange={(m) => setPanel({ [size.name]: thousandths(m) })}
            />
          {/each}
        </div>
        <ul class="mt-2" aria-label="Courses">
          {#each panel.courses.map((n, i) => ({ n, i })).reverse() as { n, i } (i)}
            <li class="flex items-center gap-2">
              <span class="w-24">Course {i + 1}</span>
              <button
                type="button"
                class="btn min-h-11"
                aria-label="Course {i + 1}: join two"
                disabled={!visit.writable || n === 1}
                onclick={() => course(i, -1)}>−</button
              >
              <span class="measured w-20 text-center">{n} {n === 1 ? "brick" : "bricks"}</span>
              <button
                type="button"
                class="btn min-h-11"
                aria-label="Course {i + 1}: split one"
                disabled={!visit.writable || n === 12}
                onclick={() => course(i, 1)}>+</button
              >
            </li>
          {/each}
        </ul>
        <div class="mt-1 flex gap-2">
          <button
            type="button"
            class="btn btn-sm min-h-11"
            disabled={!visit.writable || panel.courses.length === 12}
            onclick={() => courses(1)}>Add a course</button
          >
          <button
            type="button"
            class="btn btn-sm min-h-11"
            disabled={!visit.writable || panel.courses.length === 1}
            onclick={() => courses(-1)}>Take one away</button
          >
        </div>
      </div>
    {/if}
    {#if brick && panel}
      <div class="mt-3 space-y-3" data-brick={brick.code}>
        <p>
          <span class="font-semibold">Brick {brick.number}</span>
          <Mark condition={brick.condition} />
          {panel.name.toLowerCase()}, {tables.number(brick.widthMm / 1000, "bore")} × {tables.show(
            brick.heightMm / 1000,
            "bore",
          )}{brick.renewedOn ? `, set ${day(brick.renewedOn)}` : ""}
        </p>
        <Choices
          label="State of brick {brick.number}"
          options={tables.words("brickState")}
          value={mark.state ?? null}
          digits
          disabled={!visit.writable}
          onchange={(state) => set({ state: state as Brick["state"] })}
        />
        {#if mark.state === "open" || mark.state === "worn"}
          {@const size = mark.state === "open" ? "crackMm" : "lostMm"}
          <NumberField
            id="brick-{size}"
            label={mark.state === "open" ? "How far it stands open" : "How much is lost"}
            quantity="thickness"
            value={ofThousandths(mark[size])}
            errors={errors(field(size))}
            disabled={!visit.writable}
            onchange={(m) => set({ [size]: thousandths(m) })}
          />
        {/if}
        {#if mark.state && mark.state !== "sound"}
          <Choices
            label="Why it went"
            options={tables.words("brickCause")}
            value={mark.cause ?? null}
            disabled={!visit.writable}
            onchange={(cause) => set({ cause: cause as Brick["cause"] })}
          />
          <Tick
            label="A new one was set today"
            checked={mark.renewed ?? false}
            disabled={!visit.writable}
            onchange={(renewed) => set({ renewed })}
          />
        {/if}
      </div>
    {/if}
  {/if}
  {#each station.refusals as sentence, n (n)}<p class="text-error text-sm">{sentence}</p>{/each}
  <Reckoning reckoner={station.reckoner} assumed={[]}>
    {#snippet more()}<Decided {visit} {step} parts={answer?.parts ?? []} />{/snippet}
  </Reckoning>
  {#if answer?.renew.length}<WaysToRenew bricks={answer.renew} panels={answer.panels} />{/if}
</section>
