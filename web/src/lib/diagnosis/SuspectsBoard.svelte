<script lang="ts">
  import { untrack } from "svelte";
  import type { Schema } from "../api/client";
  import Choices from "../components/Choices.svelte";
  import { keys } from "../keys.svelte";

  /** What they say, what it may be, what settles it. */
  type Told = Record<string, boolean>;
  type Entry = { told: Told; passed: string[] };
  interface Props {
    answer: Schema["SuspectsAnswer"];
    told: Told;
    /** What nobody could answer is not asked again. */
    passed: string[];
    disabled?: boolean;
    /** Three columns where there is room for them. */
    wide?: boolean;
    onchange: (entry: Entry) => void;
  }
  let { answer, told, passed, disabled = false, wide = false, onchange }: Props = $props();

  type Reply = "yes" | "no" | "open";
  const replies: { code: Reply; name: string }[] = [
    { code: "yes", name: "yes" },
    { code: "no", name: "no" },
    { code: "open", name: "?" },
  ];
  const said = (finding: string): Reply | null =>
    finding in told ? (told[finding] ? "yes" : "no") : passed.includes(finding) ? "open" : null;
  const asked = $derived(answer.questions.filter((q) => q.finding in told));
  const next = $derived(answer.next);
  const rest = $derived(
    answer.questions.filter((q) => !(q.finding in told) && !next.some((n) => n.finding === q.finding)),
  );

  function reply(finding: string, to: Reply) {
    const left = Object.fromEntries(Object.entries(told).filter(([code]) => code !== finding));
    const others = passed.filter((code) => code !== finding);
    onchange(
      to === "open"
        ? { told: left, passed: [...others, finding] }
        : { told: { ...left, [finding]: to === "yes" }, passed: others },
    );
  }

  $effect(() => {
    const before = untrack(() => keys.page);
    const first = (to: Reply) => () => next[0] && !disabled && reply(next[0].finding, to);
    keys.page = [
      ...before,
      { key: "y", does: "yes to the next question", run: first("yes") },
      { key: "n", does: "no to the next question", run: first("no") },
      { key: "?", does: "nobody knows", run: first("open") },
    ];
    return () => (keys.page = before);
  });
</script>

{#snippet question(q: Schema["SuspectQuestion"], strong: boolean)}
  <li class="border-base-300 flex flex-wrap items-center gap-2 border-b py-1.5">
    <span class="min-w-40 grow basis-0 {strong ? 'font-bold' : ''}">{q.ask}</span>
    <Choices
      label={q.ask}
      options={replies}
      value={said(q.finding)}
      {disabled}
      onchange={(to) => reply(q.finding, to)}
    />
  </li>
{/snippet}

<div class="grid gap-6 {wide ? 'lg:grid-cols-3' : ''}">
  <section aria-labelledby="they-say">
    <h3 id="they-say">What they say</h3>
    <ul>
      {#each asked as q (q.finding)}{@render question(q, false)}{/each}
    </ul>
    {#if next.length}
      <h4 class="mt-3 font-bold">Ask next</h4>
      <ul>
        {#each next as q, i (q.finding)}{@render question(q, i === 0)}{/each}
      </ul>
    {/if}
    {#if rest.length}
      <details>
        <summary class="text-quiet min-h-11 cursor-pointer py-2">All {answer.questions.length} questions</summary>
        <ul>
          {#each rest as q (q.finding)}{@render question(q, false)}{/each}
        </ul>
      </details>
    {/if}
    {#if answer.known.length}
      <details>
        <summary class="text-quiet min-h-11 cursor-pointer py-2">Known without asking ({answer.known.length})</summary>
        <ul class="text-sm">
          {#each answer.known as k (k.finding)}
            <li class="border-base-300 border-b py-1">
              {k.ask} <span class="computed">{k.found}</span> <span class="text-quiet">{k.source}</span>
            </li>
          {/each}
        </ul>
      </details>
    {/if}
  </section>
  {#if Object.keys(told).length}
    <section aria-labelledby="may-be">
      <h3 id="may-be">What it may be</h3>
      <p class="text-quiet text-sm">
        {answer.others} others stay under 3 %. None of these: <span class="computed">{answer.none} %</span>
      </p>
      <ol>
        {#each answer.causes.slice(0, 8) as c, i (c.cause)}
          <li class="border-base-300 border-b py-2">
            <span class="flex items-baseline justify-between gap-3">
              <span class={i === 0 ? "text-lg font-bold" : "font-semibold"}>{c.wrong}</span>
              <span class="computed whitespace-nowrap {i === 0 ? 'text-lg' : ''}">{c.percent} %</span>
            </span>
            <span class="bg-base-300 relative my-1 block h-1.5 rounded-full" aria-hidden="true">
              <span class="bg-computed absolute inset-y-0 left-0 rounded-full" style="width:{c.percent}%"></span>
              <span class="bg-base-content absolute -inset-y-1 w-0.5" style="left:{100 * c.prior}%"></span>
            </span>
            <span class="text-sm">
              {#each c.for as f (f)}<span class="mr-3">+ {f}</span>{/each}
              {#each c.against as f (f)}<span class="text-quiet mr-3">− {f}</span>{/each}
            </span>
          </li>
        {/each}
      </ol>
      <p class="text-quiet mt-1 text-sm">Bar: now. Upright line: before a word was said.</p>
    </section>
    <section aria-labelledby="settles">
      <h3 id="settles">What settles it</h3>
      <p class="text-quiet text-sm">At the stove, best first</p>
      <ol class="space-y-2">
        {#each answer.tests as t, i (t.looks[0]!.finding)}
          <li class="bg-base-100 rounded-lg border p-3 {i === 0 ? 'border-primary' : 'border-base-300'}">
            <span class="flex items-baseline justify-between gap-3">
              <strong>{t.looks.map((l) => l.ask).join("; ")}</strong>
              <span class="computed whitespace-nowrap">{t.minutes} min</span>
            </span>
            {#if t.hot}<span class="text-quiet block text-sm">with a fire</span>{/if}
            <ul class="text-quiet text-sm">
              {#each t.then.slice(0, 3) as line (line)}<li>{line}</li>{/each}
            </ul>
          </li>
        {:else}<li class="text-quiet">No test is left.</li>{/each}
      </ol>
    </section>
  {/if}
</div>
