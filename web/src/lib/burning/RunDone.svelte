<script lang="ts">
  import type { Schema } from "../api/client";
  import TakeOut from "../components/TakeOut.svelte";
  import { tables } from "../tables.svelte";

  /** What is done of a run, with what was read and seen. */
  type RunStep = Schema["RunStep"];
  interface Props {
    steps: RunStep[];
    writable: boolean;
    onundo: (step: RunStep) => void;
  }
  let { steps, writable, onundo }: Props = $props();
</script>

<details class="mt-3">
  <summary class="text-quiet min-h-11 cursor-pointer py-2">Done ({steps.length})</summary>
  <ul>
    {#each steps as of (of.step)}
      <li class="flex items-center gap-3">
        <span class="measured w-14 text-right">{of.mark!.minute!.toFixed(0)} min</span>
        <span class="grow"
          >{of.say}
          {#if of.mark!.draftPa != null}<span class="measured">{tables.show(of.mark!.draftPa, "draft")}</span>{/if}
          {#if of.mark!.gasC != null}<span class="measured">{tables.show(of.mark!.gasC, "temperature")}</span>{/if}
          {#if of.mark!.saw}<span class="font-semibold">{tables.word("runSaw", of.mark!.saw)}</span>{/if}</span
        >
        {#if writable && of.step !== "light"}
          <TakeOut label="Take back: {of.say}" onclick={() => onundo(of)} />
        {/if}
      </li>
    {/each}
  </ul>
</details>
