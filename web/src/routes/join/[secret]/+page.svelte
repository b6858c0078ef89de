<script lang="ts">
  import { goto } from "$app/navigation";
  import { page } from "$app/state";
  import { api, failure, refusals, reply, type Schema } from "$lib/api/client";
  import PasswordForm from "$lib/account/PasswordForm.svelte";
  import { session } from "$lib/session.svelte";

  const path = $derived({ secret: page.params.secret! });
  let seen = $state<Schema["InvitationSeen"] | null>(null);
  let failed = $state("");

  $effect(() => {
    void reply(api.GET("/api/join/{secret}", { params: { path } })).then((answer) => {
      failed = failure(answer);
      if (answer.kind === "ok") seen = answer.data;
    });
  });

  async function join(password: string) {
    const refused = refusals(await reply(api.POST("/api/join/{secret}", { params: { path }, body: { password } })));
    if (refused.length) return refused;
    await session.load();
    await goto("/today");
    return [];
  }
</script>

<svelte:head><title>Join · Grate</title></svelte:head>

<main class="grid min-h-screen place-items-center p-6">
  <div class="w-full max-w-md">
    <p class="font-display text-primary text-5xl font-bold">Grate</p>
    {#if seen}
      <h1 class="mt-1 text-xl">{seen.firm}</h1>
      <p class="my-4">{seen.name}, choose the password with which you sign in as <strong>{seen.email}</strong>.</p>
      <PasswordForm send={join} />
    {:else if failed}
      <p role="alert" class="mt-4">{failed}</p>
      <a class="link mt-4 inline-block" href="/sign-in">Sign in</a>
    {:else}
      <span class="loading loading-dots" aria-label="Loading"></span>
    {/if}
  </div>
</main>
