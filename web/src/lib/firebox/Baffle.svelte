<script lang="ts">
  import type { Schema } from "../api/client";
  import Choices from "../components/Choices.svelte";
  import NumberField from "../components/NumberField.svelte";
  import Signs from "../components/Signs.svelte";
  import Tick from "../components/Tick.svelte";
  import { tables } from "../tables.svelte";
  import { ofThousandths, thousandths } from "../thousandths";
  import Decided from "../visits/Decided.svelte";
  import Reckoning from "../visits/Reckoning.svelte";
  import type { Step, VisitState } from "../visits/visit.svelte";

  let { visit, step }: { visit: VisitState; step: Step } = $props();

  type Check = Schema["BaffleCheck"];
  const station = $derived(visit.station<Check, Schema["BaffleCheckAnswer"]>(step.code, "baffle")!);
  const check = $derived(station.entry);
  const answer = $derived(station.answer);
  const { errors } = $derived(station);
  const set = (change: Partial<Check>) => station.set(change);
  $effect(() => station.reckon(undefined, true));

  const fields: { name: "spanMm" | "deflectionMm" | "thicknessMm"; label: string; quantity: "bore" | "thickness" }[] = [
    { name: "spanMm", label: "Free span", quantity: "bore" },
    { name: "deflectionMm", label: "Sag at mid-span", quantity: "thickness" },
    { name: "thicknessMm", label: "Thickness", quantity: "bore" },
  ];
  const span = $derived(answer?.spanMm ?? null);
  const scale = $derived(span ? 280 / span : 0);
  const sagPx = $derived(Math.max(-14, Math.min(20, 5 * (check.deflectionMm ?? 0) * scale)));
  const thickPx = $derived(Math.max(4, Math.min(20, (answer?.thicknessMm ?? 25) * scale)));
</script>

<section aria-labelledby="baffle">
  <h3 id="baffle" class="sr-only">Baffle</h3>
  <Choices
    label="What the baffle is"
    options={tables.words("baffleKind")}
    value={check.kind ?? answer?.kind ?? null}
    disabled={!visit.writable}
    onchange={(kind) => set({ kind: kind as Check["kind"] })}
  />
  <div class="mt-3 grid grid-cols-3 gap-x-4 gap-y-4 max-sm:grid-cols-1">
    {#each fields as field (field.name)}
      <NumberField
        id="baffle-{field.name}"
        label={field.label}
        quantity={field.quantity}
        value={ofThousandths(check[field.name])}
        last={ofThousandths(field.name === "spanMm" ? answer?.spanMm : (station.earlier as Check | null)?.[field.name])}
        lastWord={field.name === "spanMm" ? "taken as" : "last visit"}
        errors={errors(field.name)}
        disabled={!visit.writable}
        onchange={(m) => set({ [field.name]: thousandths(m) })}
      />
    {/each}
  </div>
  {#if span && check.deflectionMm != null}
    <svg
      viewBox="0 0 320 84"
      class="mt-2 w-full max-w-md"
      role="img"
      aria-label="The baffle from the side, its sag drawn five times as large"
    >
      <path d="M20 30 H300" class="stroke-secondary" stroke-dasharray="4 4" />
      <path
        d="M20 30 Q160 {30 + 2 * sagPx} 300 30 V{30 + thickPx} Q160 {30 + thickPx + 2 * sagPx} 20 {30 + thickPx} Z"
        class="fill-base-300 stroke-base-content"
      />
      <path d="M14 {30 + thickPx} h12 l-6 10 Z M294 {30 + thickPx} h12 l-6 10 Z" class="fill-base-content" />
      <text x="160" y="16" text-anchor="middle" class="fill-quiet text-[12px]">sag × 5</text>
    </svg>
  {/if}
  <div class="mt-3">
    <Signs
      label="What is seen on the baffle"
      none="Whole and seated"
      words={tables.words("baffleSign")}
      seen={check.signs}
      errors={errors("signs")}
      disabled={!visit.writable}
      onchange={(seen) => set({ signs: seen as Check["signs"] })}
    />
  </div>
  {#if answer?.judged?.turnOver || check.turned}
    <div class="mt-3">
      <Tick
        label="Turned over today"
        checked={check.turned ?? false}
        disabled={!visit.writable}
        onchange={(turned) => set({ turned })}
      />
    </div>
  {/if}
  <Reckoning reckoner={station.reckoner} assumed={answer?.assumed ?? []}>
    {#snippet more()}<Decided {visit} {step} parts={answer?.parts ?? []} />{/snippet}
  </Reckoning>
</section>
