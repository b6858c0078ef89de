<script lang="ts">
  import { api, reply, type Reply, type Schema } from "../api/client";
  import TextField from "../components/TextField.svelte";
  import Tick from "../components/Tick.svelte";
  import { session } from "../session.svelte";
  import { uuid7 } from "../uuid";

  /** A household that passes: joined with another record, moved out of a house, handed its records, forgotten. */
  type Books = Schema["BookedHousehold"];
  interface Props {
    books: Books;
    errors: Record<string, string[]>;
    send: (request: Promise<Reply<Books>>) => Promise<boolean>;
    /** Who lives in the house now. */
    onmoved: (id: string) => void;
  }
  let { books, errors, send, onmoved }: Props = $props();
  const id = $derived(books.customer.id);
  const path = $derived({ id });

  let q = $state("");
  let found = $state<{ id: string; name: string; address: string }[]>([]);
  let next = $state({ id: uuid7(), name: "", phone: "", email: "", note: "", language: "" });
  let sold = $state(false);
  let sure = $state(false);

  // A household is found by any of its stoves.
  async function search() {
    const answer = await reply(api.GET("/api/stoves", { params: { query: { q } } }));
    if (answer.kind !== "ok") return;
    const others = answer.data.stoves.filter(({ line }) => line.customerId !== id);
    found = [...new Map(others.map(({ line: l }) => [l.customerId, l])).values()]
      .slice(0, 8)
      .map((l) => ({ id: l.customerId, name: l.customer, address: `${l.street}, ${l.place}` }));
  }
  async function join(otherId: string) {
    if (await send(reply(api.POST("/api/households/{id}/join", { params: { path }, body: { otherId } })))) found = [];
  }
  async function moveOut(houseId: string) {
    const body = { next, sold };
    const to = next.id;
    const done = await send(
      reply(api.POST("/api/households/{id}/houses/{houseId}/moved-out", { params: { path: { id, houseId } }, body })),
    );
    if (done) onmoved(to);
  }
  const forget = () => send(reply(api.POST("/api/households/{id}/forget", { params: { path }, body: { sure } })));
</script>

<details class="bg-base-100 border-base-300 mt-7 rounded-lg border p-4">
  <summary class="min-h-11 cursor-pointer py-2 text-lg">Joined, moved out, handed out, forgotten</summary>
  <div class="space-y-6">
    <p class="flex flex-wrap gap-x-4">
      <a class="link" href="/api/households/{id}/everything" target="_blank" rel="noopener">Everything kept of them</a>
      <a class="link" href="/api/households/{id}/everything.json" download>The same as JSON</a>
      <a class="link" href="/api/households/{id}/card.vcf" download>vCard</a>
    </p>
    <form
      novalidate
      onsubmit={(e) => {
        e.preventDefault();
        void search();
      }}
    >
      <div class="flex flex-wrap items-end gap-3">
        <TextField
          id="join-search"
          label="Another record of this household: name, address or number"
          most={100}
          value={q}
          errors={errors.otherId}
          onchange={(v) => (q = v)}
        />
        <button class="btn min-h-11" disabled={q.trim() === ""}>Find it</button>
      </div>
      {#each found as other (other.id)}
        <p class="mt-1 flex flex-wrap items-center gap-3">
          <a class="link" href="/households/{other.id}">{other.name}, {other.address}</a>
          <button type="button" class="btn btn-sm min-h-11" onclick={() => join(other.id)}
            >Join {other.name} into this one</button
          >
        </p>
      {/each}
    </form>
    {#each books.houses as h (h.house.id)}
      <form
        novalidate
        onsubmit={(e) => {
          e.preventDefault();
          void moveOut(h.house.id);
        }}
      >
        <h3>They moved out of {h.house.street}, {h.house.place}. Who lives there now?</h3>
        <div class="mt-1 flex flex-wrap items-end gap-3">
          {#each [{ code: "name", label: "Name", most: 200 }, { code: "phone", label: "Phone", most: 60 }, { code: "email", label: "Mail address", most: 254 }] as const as f (f.code)}
            <TextField
              id="next-{f.code}-{h.house.id}"
              label={f.label}
              most={f.most}
              value={next[f.code]}
              errors={errors[`next.${f.code}`]}
              onchange={(v) => (next = { ...next, [f.code]: v })}
            />
          {/each}
          <Tick
            label="The house was sold: its flues are looked through"
            checked={sold}
            onchange={(on) => (sold = on)}
          />
          <button class="btn min-h-11">Moved out</button>
        </div>
      </form>
    {/each}
    {#if session.person?.role === "owner" && !books.forgottenAt}
      <form
        novalidate
        onsubmit={(e) => {
          e.preventDefault();
          void forget();
        }}
      >
        <h3>They ask to be forgotten</h3>
        <p class="text-quiet text-sm">
          Names, numbers, notes and what they told go for good, from signed visits too; what was measured stays with the
          flue.
        </p>
        <div class="flex flex-wrap items-center gap-3">
          <Tick label="It cannot be taken back: I am sure" checked={sure} onchange={(on) => (sure = on)} />
          <button class="btn min-h-11" disabled={!sure}>Forget them</button>
        </div>
      </form>
    {/if}
  </div>
</details>
