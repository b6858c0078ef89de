<script lang="ts">
  import PasswordForm from "$lib/account/PasswordForm.svelte";
  import { api, reply, refusals } from "$lib/api/client";
  import Choices from "$lib/components/Choices.svelte";
  import TextField from "$lib/components/TextField.svelte";
  import { session } from "$lib/session.svelte";
  import { settings } from "$lib/settings.svelte";

  const person = $derived(session.person!);
  let changed = $state(false);
  let name = $state(session.person!.name);
  let nameRefused = $state<string[]>([]);

  async function rename(event: SubmitEvent) {
    event.preventDefault();
    const answer = await reply(api.PUT("/api/account/name", { body: { name } }));
    nameRefused = refusals(answer);
    if (answer.kind === "ok") await session.load();
  }

  async function change(password: string, current: string) {
    const refused = refusals(await reply(api.PUT("/api/account/password", { body: { current, password } })));
    changed = refused.length === 0;
    return refused;
  }
</script>

<svelte:head><title>Account · Grate</title></svelte:head>

<div class="bg-base-100 border-base-300 m-6 max-w-3xl rounded-lg border p-6 max-sm:m-3 max-sm:p-4">
  <div class="flex flex-wrap items-baseline gap-x-4">
    <h1 class="text-2xl">{person.name}</h1>
    <span class="text-quiet">{person.role}</span>
    <button class="btn ml-auto min-h-11" onclick={() => session.signOut()}>Sign out</button>
  </div>
  <section aria-label="This device" class="mt-4 flex flex-wrap gap-3">
    <Choices
      label="Units"
      options={[
        { code: "metric", name: "Metric" },
        { code: "us", name: "US units" },
      ]}
      value={settings.system}
      onchange={(system) => system !== settings.system && settings.toggleSystem()}
    />
    <Choices
      label="Lamp"
      options={[
        { code: "enamel", name: "Enamel" },
        { code: "cellar", name: "Cellar" },
      ]}
      value={settings.theme}
      onchange={(theme) => theme !== settings.theme && settings.toggleTheme()}
    />
    <Choices
      label="Keys"
      options={[
        { code: "on", name: "Keys on" },
        { code: "off", name: "Keys off" },
      ]}
      value={settings.keys ? "on" : "off"}
      onchange={(keys) => (keys === "on") !== settings.keys && settings.toggleKeys()}
    />
  </section>
  <form class="mt-6 flex flex-wrap items-end gap-3" onsubmit={rename} novalidate>
    <TextField
      id="own-name"
      label="Name, as it stands under what you sign"
      most={200}
      value={name}
      errors={nameRefused}
      onchange={(v) => (name = v)}
    />
    {#if name.trim() !== person.name}<button class="btn min-h-11">Keep it</button>{/if}
  </form>
  <section aria-labelledby="password" class="mt-6">
    <h2 id="password" class="mb-2 text-lg">Another password</h2>
    <PasswordForm own send={change} />
    {#if changed}<p role="status" class="mt-2">It counts from now on; you are signed out everywhere else.</p>{/if}
  </section>
  <p class="mt-6"><a class="link" href="/firm">The firm{person.role === "owner" ? " and its people" : ""}</a></p>
</div>
