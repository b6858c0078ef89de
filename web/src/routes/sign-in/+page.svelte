<script lang="ts">
  import { goto } from "$app/navigation";
  import { page } from "$app/state";
  import { session } from "$lib/session.svelte";

  let email = $state("");
  let password = $state("");
  let failed = $state("");
  let busy = $state(false);

  async function signIn(event?: SubmitEvent) {
    event?.preventDefault();
    busy = true;
    failed = (await session.signIn(email, password)) ?? "";
    busy = false;
    // Back to where the session ended; nowhere else than in here.
    const from = page.url.searchParams.get("from") ?? "";
    if (!failed) await goto(/^\/[a-z]/.test(from) ? from : "/today");
  }

  function take(account: { email: string; password: string }) {
    email = account.email;
    password = account.password;
    void signIn();
  }
</script>

<svelte:head><title>Sign in · Grate</title></svelte:head>

<main class="grid min-h-screen place-items-center p-6">
  <div class="w-full max-w-md">
    <p class="font-display text-primary text-5xl font-bold">Grate</p>
    <h1 class="mt-1 text-xl">{session.state?.firm || "Stove and chimney service"}</h1>
    <form class="mt-6 space-y-4" onsubmit={signIn}>
      <label class="block"
        ><span class="text-quiet text-sm">E-mail</span>
        <input
          class="input input-lg w-full"
          type="email"
          name="email"
          autocomplete="username"
          required
          bind:value={email}
        /></label
      >
      <label class="block"
        ><span class="text-quiet text-sm">Password</span>
        <input
          class="input input-lg w-full"
          type="password"
          name="password"
          autocomplete="current-password"
          required
          bind:value={password}
        /></label
      >
      {#if failed}<p role="alert" class="text-error">{failed}</p>{/if}
      <button class="btn btn-primary btn-lg w-full" disabled={busy}>Sign in</button>
    </form>
    {#if session.state?.demoAccounts.length}
      <section class="border-base-300 mt-8 border-t pt-4" aria-labelledby="demo">
        <h2 id="demo" class="text-base">This is a demo: an invented valley</h2>
        <p class="text-quiet text-sm">
          Password of all three: <code class="measured">{session.state.demoAccounts[0]?.password}</code>
        </p>
        <ul class="mt-2 space-y-1">
          {#each session.state.demoAccounts as account (account.email)}
            <li>
              <button type="button" class="btn btn-sm w-full justify-between font-normal" onclick={() => take(account)}>
                <span>{account.email}</span><span class="text-quiet">{account.role}</span>
              </button>
            </li>
          {/each}
        </ul>
      </section>
    {/if}
  </div>
</main>
