<script lang="ts">
  import { api, failure, headline, page as pageOf, reply, type Schema } from "$lib/api/client";
  import Failure from "$lib/components/Failure.svelte";
  import SentenceLine from "$lib/components/SentenceLine.svelte";
  import SaidAndRight from "$lib/diagnosis/SaidAndRight.svelte";
  import { day, dayOf } from "$lib/dates";
  import { session } from "$lib/session.svelte";

  let answer = $state<Schema["TroublesAnswer"] | null>(null);
  let failed = $state("");
  let refused = $state("");
  let own = $state<Record<string, string>>({});
  const owner = $derived(session.person?.role === "owner");

  void pageOf("troubles", api.GET("/api/troubles")).then((read) => {
    failed = failure(read);
    if (read.kind === "ok") answer = read.data;
  });

  const percent = (share: number) => `${(100 * share).toFixed(1)} %`;
  const wrong = (cause: string | null | undefined) =>
    answer?.record.causes.find((c) => c.cause === cause)?.wrong ?? cause ?? "";

  async function tune(cause: string, prior: number | null) {
    const kept = await reply(api.PUT("/api/troubles/{cause}", { params: { path: { cause } }, body: { prior } }));
    refused = headline(kept);
    if (kept.kind !== "ok") return;
    answer = kept.data;
    delete own[cause];
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
      {#if record.minutes != null}<p>
          Half of them were known within <span class="measured">{record.minutes} min</span>.
        </p>{/if}
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
            <tr><th>Cause</th><th>It was it</th><th>Shipped</th><th>Your own</th><th>Expected now</th></tr>
          </thead>
          <tbody>
            {#each record.causes as c (c.cause)}
              <tr>
                <td>{c.wrong}</td>
                <td class="measured whitespace-nowrap">{c.times} of {c.applied}</td>
                <td>{percent(c.shipped)}</td>
                <td>
                  {#if owner}
                    <form
                      class="flex items-center gap-2"
                      onsubmit={(e) => {
                        e.preventDefault();
                        void tune(c.cause, Number(own[c.cause]) / 100);
                      }}
                    >
                      <input
                        class="input min-h-11 w-24"
                        type="number"
                        min="0.1"
                        max="50"
                        step="any"
                        aria-label="{c.wrong}: your own, %"
                        value={own[c.cause] ?? (c.own == null ? "" : +(100 * c.own).toFixed(3))}
                        oninput={(e) => (own[c.cause] = e.currentTarget.value)}
                      />
                      {#if own[c.cause]}<button class="btn btn-sm min-h-11">Keep it</button>{/if}
                      {#if c.own != null && !own[c.cause]}
                        <button
                          type="button"
                          class="btn btn-ghost btn-sm min-h-11"
                          aria-label="{c.wrong}: as shipped"
                          onclick={() => tune(c.cause, null)}>As shipped</button
                        >
                      {/if}
                    </form>
                  {:else}{c.own == null ? "" : percent(c.own)}{/if}
                </td>
                <td class="computed">{percent(c.now)}</td>
              </tr>
            {/each}
          </tbody>
        </table>
      </div>
    </section>
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
        <h2 id="said" class="text-lg">What was said of causes</h2>
        <ul class="text-sm">
          {#each answer.tunes as t (t.at + t.cause)}
            <li class="border-base-300 border-b py-1">
              <span class="text-quiet">{dayOf(t.at)}, {t.by}:</span>
              {wrong(t.cause)}: {t.prior == null ? "as shipped" : percent(t.prior)}
            </li>
          {/each}
        </ul>
      </section>
    {/if}
  </div>
{:else if !failed}
  <p class="p-6"><span class="loading loading-dots" aria-label="Loading"></span></p>
{/if}
