<script lang="ts">
  import type { Schema } from "../api/client";
  import Mark from "../components/Mark.svelte";
  import { tables } from "../tables.svelte";

  type Stop = Schema["TodayStop"];
  interface Props {
    title: string;
    stops: Stop[];
    timeZone: string;
    withNames?: boolean;
  }
  let { title, stops, timeZone, withNames = false }: Props = $props();

  const time = (iso: string) =>
    new Date(iso).toLocaleTimeString("en-GB", { hour: "2-digit", minute: "2-digit", timeZone });
  const progress = (s: Stop) =>
    s.stop.state === "signed" ? "signed" : s.stop.stepsDone > 0 ? `${s.stop.stepsDone} of 12 steps` : "";
</script>

<section class="mt-6" aria-label="Round: {title}">
  <h2 class="text-lg">{title}</h2>
  <ol class="border-base-300 relative ml-2 border-l-2">
    {#each stops as s (s.stop.visitId)}
      <li class="relative py-2 pl-6">
        <span
          class="border-quiet bg-base-200 absolute top-4 -left-[7px] size-3 rounded-full border-2"
          class:bg-success={s.stop.state === "signed"}
          aria-hidden="true"
        ></span>
        <a
          class="hover:bg-base-100 grid grid-cols-[3.5rem_1fr_auto] gap-x-3 max-sm:grid-cols-[3.5rem_1fr] rounded-lg p-2"
          href="/visits/{s.stop.visitId}"
        >
          <span class="measured">{time(s.stop.plannedStart)}</span>
          <span>
            <strong>{s.stop.street}, {s.stop.place}</strong>
            <span class="text-quiet"
              >{s.stop.customer}{withNames ? ` · ${s.stop.technician}` : ""}{s.stop.helperNames.length
                ? `, ${withNames ? "with" : `${s.stop.technician} with`} ${s.stop.helperNames.join(", ")}`
                : ""}</span
            >
            {#if s.stop.stops > 0}<span class="text-error font-semibold"><Mark condition="unsafe" /> no fire</span>{/if}
            <br />{tables.kindName(s.stop.kind, s.stop.combustor)} · {s.stop.purpose}
            {#if s.warning}<br /><span class="border-primary border-l-4 pl-2 font-semibold">{s.warning}</span>{/if}
            <br /><span class="text-quiet text-sm">{s.fromTheVan.join(", ")}</span>
          </span>
          <!-- Beside it where there is room, in one line below it on a phone. -->
          <span class="flex flex-col text-right max-sm:col-start-2 max-sm:flex-row max-sm:flex-wrap max-sm:gap-x-3"
            ><span class="computed">{s.expectedDraft}</span><span class="text-quiet text-sm">{s.weather}</span>
            {#if progress(s)}<span class="text-quiet text-sm">{progress(s)}</span>{/if}</span
          >
        </a>
      </li>
    {/each}
  </ol>
</section>
