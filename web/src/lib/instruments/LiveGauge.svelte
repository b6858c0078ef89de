<script lang="ts">
  import Axis from "../drawing/Axis.svelte";
  import { scaleLinear } from "d3-scale";
  import { line } from "d3-shape";
  import type { Schema } from "../api/client";
  import { tables, type Quantity } from "../tables.svelte";
  import { live } from "./live.svelte";

  interface Props {
    visitId: string;
    /** Takes a held run, with what the other instruments read then; without it the fields take what they need. */
    onhold?: (run: Schema["Steadiness"], values: Record<string, number>) => void;
  }
  let { visitId, onhold }: Props = $props();

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
  const takenPath = $derived.by(() => {
    const run = live.taken;
    if (run.length < 2) return "";
    const across = scaleLinear([run[0]!.atS, run.at(-1)!.atS], [40, width - 8]);
    const up = scaleLinear(
      [Math.min(...run.map((s) => s.draftPa)) - 0.5, Math.max(...run.map((s) => s.draftPa)) + 0.5],
      [28, 2],
    );
    return line<Schema["RunSample"]>(
      (s) => across(s.atS),
      (s) => up(s.draftPa),
    )(run);
  });
  const now = $derived(live.values["draftPa"]);
  const others: { field: string; name: string; quantity: Quantity }[] = [
    { field: "flueC", name: "flue gas", quantity: "temperature" },
    { field: "roomPa", name: "room", quantity: "draft" },
    { field: "roomC", name: "room air", quantity: "temperature" },
    { field: "coPpm", name: "CO", quantity: "concentration" },
    { field: "moistureDryShare", name: "wood", quantity: "share" },
  ];

  const holding = $derived(live.holding?.by === "draft" ? live.holding : null);

  async function hold() {
    const run = await live.hold("draftPa", "draft");
    if (run) onhold?.(run, { ...live.values });
  }
</script>

<section aria-label="Instruments" class="border-base-300 bg-base-200 mt-4 rounded-lg border px-3 py-2">
  <div class="flex flex-wrap items-center gap-3">
    {#if live.state === "off"}
      <span class="text-quiet grow">Gauge and thermometer</span>
      <button type="button" class="btn btn-sm bg-base-100 min-h-11" onclick={() => live.connect(visitId)}
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
          {#if live.steadiness.unsteady != null}<strong>{live.steadiness.unsteady ? "Unsteady" : "Steady"}</strong
            >,{/if}
          <span class="measured"
            >±{live.steadiness.swingShare == null
              ? tables.show(live.steadiness.swingPa, "draft")
              : tables.show(live.steadiness.swingShare, "share")}</span
          >
          in the last {Math.min(60, Math.round(live.steadiness.spanS))} s
        {:else}
          Listening …
        {/if}
        {#if live.dropped}<span class="text-quiet text-sm">· {live.dropped} lines dropped</span>{/if}
      </p>
      {#if live.state === "connected" && now !== undefined}
        <span class="measured text-2xl" data-live>{tables.number(now, "draft")}</span>
        <span class="text-quiet">{tables.unit("draft").symbol}</span>
        {#if onhold && holding}
          <button type="button" class="btn btn-sm min-h-11" onclick={() => live.stop()}
            >Holding, {holding.leftS} s left: stop</button
          >
        {:else if onhold}
          <button type="button" class="btn btn-sm min-h-11" disabled={live.holding !== null} onclick={hold}>Hold</button
          >
        {/if}
      {/if}
      <button
        type="button"
        class="btn btn-ghost btn-sm min-h-11"
        aria-label="Disconnect instruments"
        onclick={() => live.close()}>×</button
      >
    {/if}
  </div>
  {#if live.notice}<p role="alert" class="text-error mt-1">{live.notice}</p>{/if}
  {#if live.taken.length > 1}
    <p class="text-quiet mt-1 text-sm">
      Taken: {live.taken.length} readings over {(live.taken.at(-1)!.atS - live.taken[0]!.atS).toFixed(0)} s, drawn below.
    </p>
    <svg viewBox="0 0 {width} 30" class="w-full" role="img" aria-label="The run that was taken">
      <path d={takenPath} class="stroke-secondary fill-none" stroke-width="1.5" />
    </svg>
  {/if}
  {#if live.state === "connected" && trace.length > 1}
    <svg viewBox="0 0 {width} {height}" class="mt-1 w-full" role="img" aria-label="Draft of the last minute">
      <Axis scale={y} ticks={3} from={40} to={width} />
      {#if holding?.samples.length}
        <rect
          x={x(holding.samples[0]!.atS)}
          y="4"
          width={x(end) - x(holding.samples[0]!.atS)}
          height={height - 8}
          class="fill-base-300"
          opacity="0.7"
        />
      {/if}
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
