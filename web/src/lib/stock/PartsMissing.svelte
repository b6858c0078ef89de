<script lang="ts">
  import { api, reply } from "../api/client";

  /** What a visit will be without, told before the van is loaded. */
  let { visitId }: { visitId: string } = $props();
  let sentence = $state<string | null>(null);
  $effect(() => {
    void reply(api.GET("/api/visits/{id}/parts", { params: { path: { id: visitId } } })).then((answer) => {
      if (answer.kind === "ok") sentence = answer.data.sentence ?? null;
    });
  });
</script>

{#if sentence}
  <p class="border-error mb-3 border-l-4 pl-3">{sentence} <a class="link" href="/parts">Parts</a></p>
{/if}
