<script lang="ts">
  import { api, byField, headline, reply, type Schema } from "../api/client";
  import TextField from "../components/TextField.svelte";
  import { tables } from "../tables.svelte";

  type Text = Schema["TextAnswer"];
  let texts = $state<Text[]>([]);
  let picked = $state(0);
  let typed = $state<Schema["MessageText"] | null>(null);
  let errors = $state<Record<string, string[]>>({});
  let refused = $state("");
  let kept = $state(false);

  const text = $derived<Text | null>(texts[picked] ?? null);
  const now = $derived(typed ?? text?.text ?? null);
  void reply(api.GET("/api/messages/texts")).then((answer) => {
    if (answer.kind === "ok") texts = answer.data;
  });
  const change = (by: Partial<Schema["MessageText"]>) => {
    typed = { ...now!, ...by };
    kept = false;
  };
  async function keep(event: Event) {
    event.preventDefault();
    const { kind, language } = text!;
    const answer = await reply(
      api.PUT("/api/messages/texts/{kind}/{language}", { params: { path: { kind, language } }, body: now! }),
    );
    errors = byField(answer);
    refused = headline(answer);
    if (answer.kind !== "ok") return;
    [texts, typed, kept] = [answer.data, null, true];
  }
</script>

<h2 class="mt-8 text-lg">Messages to households</h2>
{#if text && now}
  <form class="mt-2 space-y-3" onsubmit={keep} novalidate>
    <label class="block text-sm"
      ><span class="text-quiet block">For</span>
      <select
        class="select min-h-11 w-full max-w-md"
        value={picked}
        onchange={(e) => {
          picked = Number(e.currentTarget.value);
          [typed, errors, refused, kept] = [null, {}, "", false];
        }}
      >
        {#each texts as of, i (i)}<option value={i}
            >{tables.word("messageKind", of.kind)}, {of.languageName}{of.own ? ", your own" : ""}</option
          >{/each}
      </select></label
    >
    <TextField
      id="message-subject"
      label="Subject"
      value={now.subject}
      most={150}
      errors={errors["subject"] ?? []}
      onchange={(subject) => change({ subject })}
    />
    <label class="block text-sm"
      ><span class="text-quiet">Text</span>
      <textarea
        class="textarea w-full"
        rows="9"
        maxlength="4000"
        value={now.body}
        aria-invalid={errors["body"] ? true : undefined}
        oninput={(e) => change({ body: e.currentTarget.value })}></textarea></label
    >
    {#each errors["body"] ?? [] as sentence, n (n)}<p class="text-error text-sm">{sentence}</p>{/each}
    <p class="text-quiet text-sm">
      In braces stands what differs from visit to visit: household, day, from, to, firm, technician, address, link.
    </p>
    {#if refused}<p role="alert" class="text-error text-sm">{refused}</p>{/if}
    <button class="btn min-h-11" disabled={typed === null}>Keep the text</button>
    {#if kept}<span role="status">Kept.</span>{/if}
  </form>
{/if}
