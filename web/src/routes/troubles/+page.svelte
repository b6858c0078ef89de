<script lang="ts">
  import { api, failure, headline, page as pageOf, reply, type Schema } from "$lib/api/client";
  import Failure from "$lib/components/Failure.svelte";
  import SentenceLine from "$lib/components/SentenceLine.svelte";
  import SaidAndRight from "$lib/diagnosis/SaidAndRight.svelte";
  import TableNumber from "$lib/diagnosis/TableNumber.svelte";
  import { day, dayOf } from "$lib/dates";
  import { session } from "$lib/session.svelte";

  let answer = $state<Schema["TroublesAnswer"] | null>(null);
  let failed = $state("");
  let refused = $state("");
  const owner = $derived(session.person?.role === "owner");

  void pageOf("troubles", api.GET("/api/troubles")).then((read) => {
    failed = failure(read);
    if (read.kind === "ok") answer = read.data;
  });

  const percent = (share: number) => `${(100 * share).toFixed(1)} %`;
  const wrong = (cause: string | null | undefined) =>
    answer?.record.causes.find((c) => c.cause === cause)?.wrong ?? cause ?? "";

  async function set(what: string, value: number | null) {
    const kept = await reply(api.PUT("/api/troubles/{what}", { params: { path: { what } }, body: { value } }));
    refused = headline(kept);
    if (kept.kind === "ok") answer = kept.data;
  }
</script>

<svelte:head><title>Troubles · Grate</title></svelte:head>

<Failure sentence={failed} />
{#if answer}
  {@const record = answer.record}
  <div class="mx-auto max-w-6xl space-y-7 p-6 max-sm:p-3">
    <header>
      <h1 class="text-2xl">What troubles really were</h1>
      {#each record.sentences as sentence, i (i)}<SentenceLine {sentence} />{/each}
    </header>
    {#if record.calibration.length}<SaidAndRight bins={record.calibration} />{/if}
    <section aria-labelledby="causes">
      <h2 id="causes" class="text-lg">Causes, and how often they are expected now</h2>
      <p class="text-quiet text-sm">
        The shipped table moves with what was confirmed: fifty calls of its own against yours. {owner
          ? "You may say otherwise; the shipped number stays beside it."
          : "The owner may say otherwise."}
      </p>
      {#if refused}<p role="alert" class="text-error">{refused}</p>{/if}
      <div class="overflow-x-auto">
        <table class="table">
          <thead>
            <tr><th>Cause</th><th>It was it</th><th>Shipped, and your own</th><th>Expected now</th></tr>
          </thead>
          <tbody>
            {#each record.causes as c (c.cause)}
              <tr>
                <td>
                  {c.wrong}
                  <details>
                    <summary class="text-quiet min-h-11 cursor-pointer py-2 text-sm">Shows by {c.links.length}</summary>
                    <ul>
                      {#each c.links as l (l.strength.what)}
                        <li class="border-base-300 flex flex-wrap items-center justify-between gap-x-3 border-b py-1">
                          <span>{l.finding}</span>
                          <TableNumber
                            number={l.strength}
                            label="{c.wrong}, {l.finding}"
                            editable={owner}
                            onset={set}
                          />
                        </li>
                      {/each}
                    </ul>
                  </details>
                </td>
                <td class="measured whitespace-nowrap">{c.times} of {c.applied}</td>
                <td>
                  <TableNumber number={c.prior} label="{c.wrong}: your own" unit="%" editable={owner} onset={set} />
                </td>
                <td class="computed">{percent(c.now)}</td>
              </tr>
            {/each}
          </tbody>
        </table>
      </div>
    </section>
    <details>
      <summary class="min-h-11 cursor-pointer py-2 text-lg">Questions and looks ({record.findings.length})</summary>
      <p class="text-quiet text-sm">
        How often each is so without any cause, and the minutes it takes; looks of one test share theirs.
      </p>
      <div class="overflow-x-auto">
        <table class="table">
          <thead><tr><th>Question or look</th><th>So without a cause</th><th>Minutes</th></tr></thead>
          <tbody>
            {#each record.findings as f (f.leak.what)}
              <tr>
                <td>{f.finding}</td>
                <td>
                  <TableNumber number={f.leak} label="{f.finding}: leak" unit="%" editable={owner} onset={set} />
                </td>
                <td>
                  {#if f.minutes}<TableNumber
                      number={f.minutes}
                      label="{f.finding}: minutes"
                      unit="min"
                      editable={owner}
                      onset={set}
                    />{/if}
                </td>
              </tr>
            {/each}
          </tbody>
        </table>
      </div>
    </details>
    {#if record.newest.length}
      <section aria-labelledby="newest">
        <h2 id="newest" class="text-lg">The newest</h2>
        <ul>
          {#each record.newest as t (t.visitId)}
            <li class="border-base-300 border-b py-1">
              <a class="link" href="/visits/{t.visitId}">{day(t.day)}</a>
              {t.causes.length ? t.causes.map(wrong).join(", ") : "outside the list"}
              {#if t.first}<span class="text-quiet"
                  >{t.causes.includes(t.first) ? "suspected first" : `first suspected: ${wrong(t.first)}`}, {t.firstPercent}
                  %</span
                >{/if}
            </li>
          {/each}
        </ul>
      </section>
    {/if}
    {#if answer.tunes.length}
      <section aria-labelledby="said">
        <h2 id="said" class="text-lg">What was said of the table</h2>
        <ul class="text-sm">
          {#each answer.tunes as t (t.at + t.what)}
            <li class="border-base-300 border-b py-1">
              <span class="text-quiet">{dayOf(t.at)}, {t.by}:</span>
              {t.name}: {t.value ?? "as shipped"}
            </li>
          {/each}
        </ul>
      </section>
    {/if}
  </div>
{:else if !failed}
  <p class="p-6"><span class="loading loading-dots" aria-label="Loading"></span></p>
{/if}
