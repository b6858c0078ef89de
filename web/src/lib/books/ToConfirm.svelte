<script lang="ts">
  import { api, refusals, reply, type Schema } from "../api/client";

  /** What the books took as usual, for whoever stands before it. */
  interface Props {
    stoveId: string;
    customerId: string;
    writable: boolean;
  }
  let { stoveId, customerId, writable }: Props = $props();
  let open = $state<Schema["ToConfirm"][]>([]);
  let refused = $state<string[]>([]);

  $effect(() => {
    void reply(api.GET("/api/stoves/{id}/unconfirmed", { params: { path: { id: stoveId } } })).then((answer) => {
      if (answer.kind === "ok") open = answer.data;
    });
  });

  async function confirm(fields: string[]) {
    const answer = await reply(
      api.POST("/api/stoves/{id}/confirm", { params: { path: { id: stoveId } }, body: { fields } }),
    );
    refused = refusals(answer);
    if (answer.kind === "ok") open = open.filter((o) => !fields.includes(o.field));
  }
</script>

{#if open.length}
  <section class="mb-4" aria-labelledby="to-confirm">
    <h3 id="to-confirm">Taken as usual: is it so?</h3>
    <ul>
      {#each open as o (o.field)}
        <li class="border-base-300 flex flex-wrap items-center gap-x-3 border-b">
          <span class="grow">{o.say}</span>
          {#if writable}<button
              class="btn btn-sm min-h-11"
              aria-label="It is so: {o.say}"
              onclick={() => confirm([o.field])}>It is so</button
            >{/if}
        </li>
      {/each}
    </ul>
    <p class="text-quiet mt-1 text-sm">
      What is otherwise is corrected by the office on the <a class="link" href="/households/{customerId}"
        >household's page</a
      >, the flue in <a class="link" href="/stoves/{stoveId}/flue">its own drawing</a>.
    </p>
    {#each refused as sentence, n (n)}<p role="alert" class="text-error text-sm">{sentence}</p>{/each}
  </section>
{/if}
