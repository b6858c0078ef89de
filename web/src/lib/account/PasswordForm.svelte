<script lang="ts">
  interface Props {
    /** Whether it is one's own: then the present one is asked for. */
    own?: boolean;
    /** Sends it; returns why it was refused. */
    send: (password: string, current: string) => Promise<string[]>;
  }
  let { own = false, send }: Props = $props();
  const uid = $props.id();
  let current = $state("");
  let password = $state("");
  let refused = $state<string[]>([]);
  let busy = $state(false);

  async function submit(event: SubmitEvent) {
    event.preventDefault();
    busy = true;
    refused = await send(password, current);
    busy = false;
    if (refused.length === 0) current = password = "";
  }
</script>

<form class="max-w-md space-y-4" onsubmit={submit}>
  {#if own}
    <label class="block"
      ><span class="text-quiet mb-1 block text-sm">The one that counts now</span>
      <input
        class="input w-full"
        type="password"
        autocomplete="current-password"
        required
        maxlength="200"
        bind:value={current}
      /></label
    >
  {/if}
  <label class="block"
    ><span class="text-quiet mb-1 block text-sm">The new one: at least 12 characters, best some words</span>
    <input
      class="input w-full"
      type="password"
      autocomplete="new-password"
      aria-describedby={uid}
      required
      minlength="12"
      maxlength="200"
      bind:value={password}
    /></label
  >
  <div id={uid}>
    {#each refused as sentence, n (n)}<p role="alert" class="text-error text-sm">{sentence}</p>{/each}
  </div>
  <button class="btn min-h-11" disabled={busy}>Set the password</button>
</form>
