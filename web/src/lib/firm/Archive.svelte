<script lang="ts">
  import { ask, refusals, reply } from "../api/client";

  /** Everything of the firm, out as one document, and back into an empty firm. */
  let failed = $state<string[]>([]);
  let busy = $state(false);
  let done = $state(false);

  async function readBack(event: Event & { currentTarget: HTMLInputElement }) {
    const file = event.currentTarget.files?.[0];
    if (!file) return;
    [busy, failed] = [true, []];
    const answer = await reply(ask("POST", "/api/archive", new Blob([file], { type: "application/json" })));
    busy = false;
    failed = refusals(answer);
    done = answer.kind === "ok";
  }
</script>

<section aria-labelledby="archive" class="mt-8">
  <h2 id="archive" class="text-lg">Everything of the firm</h2>
  <p><a class="link" href="/api/archive" download>Take it all out, as one JSON file</a></p>
  <p class="text-quiet mt-1 text-sm">
    Households, visits, photos, stock and plans; no passwords and no secret addresses. It is read back into an empty
    firm:
  </p>
  <input
    type="file"
    accept=".json,application/json"
    class="file-input mt-2 block w-full max-w-md"
    aria-label="Read an archive back"
    disabled={busy}
    onchange={readBack}
  />
  {#if busy}<p role="status">Reading it back, and reckoning what is due …</p>{/if}
  {#if done}<p role="status">
      It is in. Sign in again, with the address that the owner has in the archive and the password that counts here.
    </p>{/if}
  {#each failed as sentence, n (n)}<p role="alert" class="text-error">{sentence}</p>{/each}
</section>
