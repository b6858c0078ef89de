<script lang="ts">
  import "../app.css";
  import { goto } from "$app/navigation";
  import { page } from "$app/state";
  import KeysHelp from "$lib/components/KeysHelp.svelte";
  import Rail from "$lib/components/Rail.svelte";
  import { keys } from "$lib/keys.svelte";
  import { session } from "$lib/session.svelte";
  import { settings } from "$lib/settings.svelte";
  import { tables } from "$lib/tables.svelte";

  let { children } = $props();

  settings.apply();
  void session.load();

  // Pages for whoever is not signed in.
  const signingIn = $derived(/^\/(sign-in$|begin$|join\/)/.test(page.url.pathname));
  $effect(() => {
    if (session.state?.empty && page.url.pathname !== "/begin") void goto("/begin");
    else if (session.state && !session.person && !signingIn)
      void goto(`/sign-in?from=${encodeURIComponent(page.url.pathname)}`);
  });
  // The server may come back while the first page waits for it.
  $effect(() => {
    if (!session.away) return;
    const timer = setInterval(() => void session.load(), 3000);
    return () => clearInterval(timer);
  });
</script>

<svelte:window onkeydown={(e) => keys.press(e)} />

{#if signingIn}
  {@render children()}
{:else if session.person && tables.all}
  <div class="flex min-h-screen max-md:flex-col print:block">
    <Rail />
    <main class="min-w-0 grow">{@render children()}</main>
  </div>
  <KeysHelp />
{:else}
  <main class="text-quiet p-8">
    {#if session.away}The server does not answer. Trying again …{:else}<span
        class="loading loading-dots"
        aria-label="Loading"
      ></span>{/if}
  </main>
{/if}
