<script lang="ts">
  import { untrack } from "svelte";
  import type { Schema } from "../api/client";
  import Choices from "../components/Choices.svelte";
  import SentenceLine from "../components/SentenceLine.svelte";
  import type { VisitState } from "../visits/visit.svelte";

  /** Who is suspected, under the drawing at every step: by what was told, and by everything that is saved in this visit. */
  interface Props {
    visit: VisitState;
    /** Part that is lit up in the drawings. */
    lit: string;
    onlit: (part: string) => void;
  }
  let { visit, lit, onlit }: Props = $props();

  const station = $derived(visit.station<Schema["Suspects"], Schema["SuspectsAnswer"]>("booking", "suspects"));
  const told = $derived(station?.entry.told ?? {});
  // What was saved anywhere in the visit may say something, once there is a complaint.
  $effect(() => {
    void visit.doc;
    if (Object.keys(told).length) untrack(() => station?.reckon(undefined, true));
  });
  const answer = $derived(Object.keys(told).length ? (station?.answer ?? null) : null);
  const suspects = $derived(answer?.causes.filter((c) => c.raised).slice(0, 3) ?? []);
  const next = $derived(answer?.tests[0] ?? null);
  const stops = $derived(answer?.sentences.filter((s) => s.weight === "stop") ?? []);
  let open = $state("");

  function pick(c: Schema["Suspect"]) {
    open = open === c.cause ? "" : c.cause;
    onlit(open ? c.part : "");
  }
  const tick = (finding: string, yes: boolean) => station?.set({ told: { ...told, [finding]: yes } });
  const looks: { code: "yes" | "no"; name: string }[] = [
    { code: "yes", name: "yes" },
    { code: "no", name: "no" },
  ];
</script>

{#if answer}
  <section aria-labelledby="suspected" class="border-base-300 border-t px-4 py-2">
    <h3 id="suspected" class="text-sm">Suspects</h3>
    {#each stops as sentence, i (i)}<SentenceLine {sentence} />{/each}
    {#if suspects.length === 0}<p class="text-quiet text-sm">
        Nothing is raised above what is usual. None of these: {answer.none} %.
      </p>{/if}
    <ul>
      {#each suspects as c, i (c.cause)}
        <li>
          <button
            type="button"
            class="flex min-h-11 w-full cursor-pointer items-baseline justify-between gap-3 text-left {i === 0
              ? 'font-bold'
              : ''}"
            aria-expanded={open === c.cause}
            aria-pressed={c.part !== "" && lit === c.part}
            onclick={() => pick(c)}><span>{c.wrong}</span><span class="computed">{c.percent} %</span></button
          >
          {#if open === c.cause}
            <p class="text-sm">
              {#each c.for as f (f)}<span class="mr-3">+ {f}</span>{/each}
              {#each c.against as f (f)}<span class="text-quiet mr-3">− {f}</span>{/each}
              <span class="block">What cures it: {c.remedy}</span>
            </p>
          {/if}
        </li>
      {/each}
    </ul>
    {#if next}
      <div class="border-primary mt-1 border-l-4 pl-3 text-sm">
        <p>
          Next:
          {#if next.step}<a class="link font-bold" href="/visits/{visit.id}/{next.step}/{next.station}"
              >{next.looks.map((l) => l.ask).join("; ")}</a
            >{:else}<strong>{next.looks.map((l) => l.ask).join("; ")}</strong>{/if},
          <span class="computed">{next.minutes} min</span>{next.hot ? ", with a fire" : ""}
        </p>
        {#if !next.step && visit.writable}
          {#each next.looks as look (look.finding)}
            <Choices
              label={look.ask}
              options={looks}
              value={null}
              onchange={(to) => tick(look.finding, to === "yes")}
            />
          {/each}
        {/if}
        {#each next.then.slice(0, 2) as line (line)}<p class="text-quiet">{line}</p>{/each}
      </div>
    {/if}
  </section>
{/if}
