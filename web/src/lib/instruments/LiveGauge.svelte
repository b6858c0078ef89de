<script lang="ts">
  import { scaleLinear } from "d3-scale";
  import { line } from "d3-shape";
  import { onDestroy } from "svelte";
  import type { Schema } from "../api/client";
  import { tables, type Quantity } from "../tables.svelte";
  import { Live } from "./live.svelte";

  interface Props {
    visitId: string;
    /** Takes a held run, with what the other instruments read then. */
    onhold: (run: Schema["Steadiness"], values: Record<string, number>) => void;
  }
  let { visitId, onhold }: Props = $props();

  const live = new Live();
  onDestroy(() => live.close());

  const width = 520;
  const height = 72;
  const trace = $derived(live.trace);
  const end = $derived(trace[trace.length - 1]?.atS ?? 0);
  const x = $derived(scaleLinear([end - 60, end], [40, width - 8]));
  const shown = (pa: number) => tables.shown(pa, "draft");
  const least = $derived(Math.min(0, ...trace.map((s) => s.draftPa)));
  const most = $derived(Math.max(5, ...trace.map((s) => s.draftPa)) * 1.1);
  const y = $derived(scaleLinear([shown(least), shown(most)], [height - 8, 8]).nice(3));
  const path = $derived(
    line<Schema["RunSample"]>(
      (s) => x(s.atS),
      (s) => y(shown(s.draftPa)),
    )(trace),
  );
  const now = $derived(live.values["draftPa"]);
  const others: { field: string; name: string; quantity: Quantity }[] = [
    { field: "flueC", name: "flue gas", quantity: "temperature" },
    { field: "roomPa", name: "room", quantity: "draft" },
    { field: "roomC", name: "room air", quantity: "temperature" },
    { field: "coPpm", name: "CO", quantity: "concentration" },
    { field: "moistureDryShare", name: "wood", quantity: "share" },
  ];

  async function hold() {
    const run = await live.hold();
    if (run) onhold(run, { ...live.values });
  }
</script>

<section aria-label="Instruments" class="border-base-300 bg-base-200 mt-2 rounded-lg border px-3 py-2">
  <div class="flex flex-wrap items-center gap-3">
    {#if live.state === "off"}
      <span class="text-quiet grow">Gauge and thermometer</span>
      <button type="button" class="btn btn-sm bg-base-100" onclick={() => live.connect(visitId)}
        >Connect instruments</button
      >
    {:else}
      <span class="size-3 rounded-full {live.state === 'connected' ? 'bg-success' : 'bg-error'}" aria-hidden="true"
      ></span>
      <p role="status" class="grow">
        {#if live.state === "none"}
          No instruments are set up for this server.
        {:else if live.state === "lost"}
          Instruments do not answer; trying again. What was held is kept.
        {:else if live.steadiness}
          <strong>{live.steadiness.unsteady ? "Unsteady" : "Steady"}</strong>,
          <span class="measured">±{tables.show(live.steadiness.swingShare, "share")}</span> in the last minute
        {:else}
          Listening …
        {/if}
        {#if live.dropped}<span class="text-quiet text-sm">· {live.dropped} lines dropped</span>{/if}
      </p>
      {#if live.state === "connected" && now !== undefined}
        <span class="measured text-2xl" data-live>{tables.number(now, "draft")}</span>
        <span class="text-quiet">{tables.unit("draft").symbol}</span>
        <button type="button" class="btn btn-sm btn-primary" disabled={!live.steadiness} onclick={hold}>Hold</button>
      {/if}
      <button
        type="button"
        class="btn btn-ghost btn-sm"
        aria-label="Disconnect instruments"
        onclick={() => live.close()}>×</button
      >
    {/if}
  </div>
  {#if live.state === "connected" && trace.length > 1}
    <svg viewBox="0 0 {width} {height}" class="mt-1 w-full" role="img" aria-label="Draft of the last minute">
      {#each y.ticks(3) as tick (tick)}
        <path d="M40 {y(tick)} H{width}" class="stroke-base-300" />
        <text x="34" y={y(tick) + 4} text-anchor="end" class="fill-quiet text-[11px]">{y.tickFormat(3)(tick)}</text>
      {/each}
      <path d={path} class="stroke-base-content fill-none" stroke-width="1.8" />
    </svg>
    <p class="flex flex-wrap gap-x-3 text-sm">
      {#each others as other (other.field)}
        {#if live.values[other.field] !== undefined}
          <span
            ><span class="text-quiet">{other.name}</span>
            <span class="measured">{tables.show(live.values[other.field]!, other.quantity)}</span></span
          >
        {/if}
      {/each}
    </p>
  {/if}
</section>
