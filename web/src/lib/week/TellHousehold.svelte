<script lang="ts">
  import { api, refusals, reply, type Schema } from "../api/client";
  import { tables } from "../tables.svelte";

  type Kind = Schema["MessageKind"];
  interface Props {
    /** The visit. */
    id: string;
    kinds: Kind[];
    ontold: () => void;
  }
  let { id, kinds, ontold }: Props = $props();

  let texts = $state<Schema["TextAnswer"][]>([]);
  let language = $state("");
  let said = $state("");
  let failed = $state<string[]>([]);
  let sending = $state(false);
  const languages = $derived([...new Map(texts.map((t) => [t.language, t.languageName]))]);

  void reply(api.GET("/api/messages/texts")).then((answer) => {
    if (answer.kind === "ok") texts = answer.data;
  });

  async function tell(kind: Kind) {
    sending = true;
    const answer = await reply(
      api.POST("/api/visits/{id}/messages", { params: { path: { id } }, body: { kind, language: language || null } }),
    );
    sending = false;
    failed = refusals(answer);
    said = answer.kind === "ok" ? `${tables.word("messageKind", kind)} is in the outbox.` : "";
    if (answer.kind === "ok") ontold();
  }
</script>

<div class="mt-3 flex flex-wrap items-center gap-2" role="group" aria-label="Tell the household">
  <span class="text-quiet text-sm">Tell the household</span>
  {#each kinds as kind (kind)}
    <button type="button" class="btn btn-sm min-h-11" disabled={sending} onclick={() => tell(kind)}
      >{tables.word("messageKind", kind)}</button
    >
  {/each}
  {#if languages.length > 1}
    <select class="select min-h-11 w-40" aria-label="In which language" bind:value={language}>
      <option value="">their language</option>
      {#each languages as [code, name] (code)}<option value={code}>{name}</option>{/each}
    </select>
  {/if}
  <span role="status">{said}</span>
  {#each failed as sentence, n (n)}<p role="alert" class="text-error w-full text-sm">{sentence}</p>{/each}
</div>
