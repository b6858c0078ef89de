<script lang="ts">
  import type { Schema } from "../api/client";
  import SentenceLine from "../components/SentenceLine.svelte";
  import { tables } from "../tables.svelte";

  /** Share still good over the years, with its band. */
  let { life }: { life: Schema["PartLife"] } = $props();
  const width = 320;
  const height = 150;
  const edge = 28;
  const most = $derived(Math.max(5, Math.ceil(life.curve.at(-1)?.years ?? 5)));
  const x = (years: number) => edge + (years / most) * (width - 2 * edge);
  const y = (share: number) => height - edge - share * (height - 2 * edge);
  // A step goes across first, then down.
  const steps = (of: (s: Schema["LifeStep"]) => number) =>
    life.curve.map((s) => `H${x(s.years)} V${y(of(s))}`).join(" ") + ` H${x(most)}`;
  const back = $derived(
    [...life.curve]
      .reverse()
      .map((s, i, all) => `H${x(s.years)} V${y(all[i + 1]?.low ?? 1)}`)
      .join(" "),
  );
</script>

<figure>
  <figcaption>
    <strong>{tables.word("livingPart", life.part)}</strong>
    {#each life.sentences as sentence, i (i)}<SentenceLine {sentence} />{/each}
  </figcaption>
  {#if life.curve.length}
    <svg
      viewBox="0 0 {width} {height}"
      class="w-full max-w-sm"
      role="img"
      aria-label="Share still good over {most} years"
    >
      <path
        d="M{x(0)} {y(1)} {steps((s) => s.high)} V{y(life.curve.at(-1)!.low)} {back} H{x(0)} Z"
        class="fill-computed/20"
      />
      <path d="M{x(0)} {y(1)} {steps((s) => s.share)}" class="stroke-computed fill-none stroke-2" />
      {#each [0, 0.5, 1] as share (share)}
        <path d="M{x(0)} {y(share)} H{x(most)}" class="stroke-base-300 fill-none" />
        <text x={edge - 4} y={y(share) + 4} text-anchor="end" class="fill-quiet text-[11px]">{100 * share}</text>
      {/each}
      {#each Array.from({ length: most + 1 }, (_, i) => i).filter((i) => most < 8 || i % 2 === 0) as year (year)}
        <text x={x(year)} y={height - 8} text-anchor="middle" class="fill-quiet text-[11px]">{year}</text>
      {/each}
    </svg>
  {/if}
</figure>
