<script lang="ts">
  import { api, reply, refusals, type Schema } from "../api/client";
  import SentenceLine from "../components/SentenceLine.svelte";
  import { day } from "../dates";
  import { settings } from "../settings.svelte";
  import { tables } from "../tables.svelte";
  import { uuid7 } from "../uuid";

  interface Props {
    /** One visit's seals, from its van; or those of a technician's days, from van and store. */
    of: { visitId: string } | { technicianId: string; day: string; days: number };
    /** Whose van the off-cut of a bought piece goes to. */
    vanId: string;
    /** Asked again whenever it changes. */
    stamp?: unknown;
    disabled?: boolean;
    oncut?: () => void;
  }
  let { of, vanId, stamp, disabled = false, oncut }: Props = $props();

  type Cut = Schema["PlannedCut"];
  let plan = $state<Schema["CuttingPlan"] | null>(null);
  let refused = $state<string[]>([]);
  let busy = $state(false);
  // What was sent and not answered is sent again as the same save.
  let saves: Record<string, string> = {};

  let asked = 0;
  async function load() {
    const mine = ++asked;
    const answer = await reply(api.GET("/api/stock/cuts", { params: { query: { ...of, units: settings.system } } }));
    if (mine !== asked) return;
    refused = refusals(answer);
    if (answer.kind === "ok") plan = answer.data;
  }
  $effect(() => {
    void stamp;
    void load();
  });

  async function send(key: string, request: (saveId: string) => Parameters<typeof reply>[0]) {
    busy = true;
    const answer = await reply(request((saves[key] ??= uuid7())));
    busy = false;
    if (answer.kind !== "away") delete saves[key];
    await load();
    refused = [...refused, ...refusals(answer)];
    if (answer.kind === "ok") oncut?.();
  }

  const cut = (piece: Cut) =>
    send(piece.pieceId ?? piece.offerId + piece.seals.map((s) => s.visitId + s.place).join(), (saveId) =>
      api.POST("/api/stock/cuts", {
        body: {
          saveId,
          vanId,
          pieceId: piece.pieceId,
          offerId: piece.offerId,
          seals: piece.seals.map((s) => ({ visitId: s.visitId, place: s.place, lengthM: s.lengthM! })),
        },
      }),
    );
  const again = (seal: Schema["PlannedSeal"]) =>
    send(seal.visitId + seal.place, (saveId) =>
      api.POST("/api/stock/cuts/spoilt", { body: { saveId, visitId: seal.visitId, place: seal.place } }),
    );

  // To scale among each other; what is far longer than anything cut from it is drawn torn off.
  const used = (piece: Cut) => piece.lengthM - piece.leftM;
  const most = $derived(
    Math.max(0.5, ...(plan?.cuts.map((piece) => Math.min(piece.lengthM, used(piece) * 1.6)) ?? [])),
  );
  const width = (m: number) => `${(100 * m) / most}%`;
  const done = $derived(plan?.seals.filter((s) => s.cut) ?? []);
  const named = (seal: Schema["PlannedSeal"]) =>
    "visitId" in of ? seal.seal : `${seal.seal}, ${seal.household}, ${day(seal.day)}`;
</script>

{#if plan}
  {#each plan.sentences as sentence, i (i)}<SentenceLine {sentence} />{/each}
  <ol class="mt-3 grid gap-4">
    {#each plan.cuts as piece, i (i)}
      <li>
        <div class="flex h-9 w-full" aria-hidden="true">
          {#each piece.seals as seal (seal.visitId + seal.place)}
            <span
              class="border-base-content bg-base-300 shrink-0 overflow-hidden border px-1 text-sm leading-8 text-ellipsis whitespace-nowrap not-first:border-l-0"
              style:width={width(seal.lengthM!)}
              >{seal.seal} <span class="computed">{tables.show(seal.lengthM!, "length")}</span></span
            >
          {/each}
          {#if piece.leftM > 0}
            <span
              class="text-quiet border-base-content shrink overflow-hidden border border-l-0 border-dashed px-1 text-sm leading-8 whitespace-nowrap {piece.lengthM >
              most
                ? 'border-r-0'
                : ''}"
              style:width={width(Math.min(piece.leftM, most - used(piece)))}
              >{tables.show(piece.leftM, "length")}{piece.lengthM > most ? " …" : ""}</span
            >
          {/if}
        </div>
        <div class="mt-1 flex flex-wrap items-center gap-x-3">
          <div class="min-w-0 grow basis-64"><SentenceLine sentence={piece.sentence} /></div>
          <button class="btn min-h-11" disabled={disabled || busy} onclick={() => cut(piece)}
            >{piece.offerId ? "Bought and cut" : "Cut"}</button
          >
        </div>
      </li>
    {/each}
  </ol>
  {#if done.length}
    <ul class="mt-3" aria-label="Cut already">
      {#each done as seal (seal.visitId + seal.place)}
        <li class="flex flex-wrap items-center gap-3">
          <span class="grow">● {named(seal)}: cut.</span>
          <button class="btn btn-ghost btn-sm min-h-11" disabled={disabled || busy} onclick={() => again(seal)}
            >Spoilt, cut again</button
          >
        </li>
      {/each}
    </ul>
  {/if}
{:else if refused.length === 0}
  <p class="text-quiet"><span class="loading loading-dots" aria-label="Planning the cuts"></span></p>
{/if}
{#each refused as sentence, n (n)}<p role="alert" class="text-error text-sm">{sentence}</p>{/each}
