<script lang="ts">
  import { api, refusals, reply, type Schema } from "../api/client";

  /** Calls that were solved by telephone a week ago: did it help? */
  let { calls, onchanged }: { calls: Schema["WaitingCall"][]; onchanged: () => Promise<void> } = $props();
  let failed = $state<string[]>([]);

  async function look(id: string, helped: boolean) {
    failed = refusals(
      await reply(api.POST("/api/calls/{id}/look-back", { params: { path: { id } }, body: { helped } })),
    );
    await onchanged();
  }
</script>

{#if calls.length}
  <section aria-labelledby="look-back" class="mt-6">
    <h2 id="look-back" class="text-lg">Ask again</h2>
    <p class="text-quiet text-sm">Solved by telephone: did it help?</p>
    <ul class="mt-2 space-y-2">
      {#each calls as call (call.id)}
        <li class="border-base-300 bg-base-100 rounded-sm border-2 p-3">
          <strong>{call.customer}</strong>, {call.phone}
          <span class="block text-sm">{call.words}</span>
          <span class="mt-2 flex gap-2">
            <button class="btn btn-sm min-h-11" onclick={() => look(call.id, true)}>It helped</button>
            <button class="btn btn-sm min-h-11" onclick={() => look(call.id, false)}>It did not: a visit</button>
          </span>
        </li>
      {/each}
    </ul>
    {#each failed as sentence, n (n)}<p role="alert" class="text-error text-sm">{sentence}</p>{/each}
  </section>
{/if}
