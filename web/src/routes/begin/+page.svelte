<script lang="ts">
  import { goto } from "$app/navigation";
  import { api, byField, failure, headline, reply, type Schema } from "$lib/api/client";
  import TextField from "$lib/components/TextField.svelte";
  import FirmFields from "$lib/firm/FirmFields.svelte";
  import { session } from "$lib/session.svelte";
  import { settings } from "$lib/settings.svelte";

  let code = $state("");
  let firm = $state<Schema["FirmEntry"]>({ name: "", place: "", timeZone: "" });
  let ways = $state<Schema["FirmWays"] | null>(null);
  let name = $state("");
  let email = $state("");
  let password = $state("");
  let stations = $state<Schema["ClimateStation"][]>([]);
  let errors = $state<Record<string, string[]>>({});
  let failed = $state("");
  let busy = $state(false);

  void reply(api.GET("/api/set-up")).then((answer) => {
    failed = failure(answer);
    if (answer.kind === "ok") ({ stations, ways } = answer.data);
  });
  $effect(() => {
    if (session.state && !session.state.empty) void goto("/sign-in");
  });

  async function begin(event: SubmitEvent) {
    event.preventDefault();
    busy = true;
    const answer = await reply(
      api.POST("/api/set-up", { body: { code, firm: { ...firm, ways }, name, email, password } }),
    );
    busy = false;
    errors = byField(answer);
    failed = headline(answer);
    if (answer.kind !== "ok") return;
    settings.begin(ways!.units as "metric" | "us");
    await session.load();
    await goto("/firm");
  }
</script>

<svelte:head><title>Begin · Grate</title></svelte:head>

<main class="mx-auto max-w-3xl p-6 max-sm:p-4">
  <p class="font-display text-primary text-5xl font-bold">Grate</p>
  <h1 class="mt-1 text-2xl">Begin with your firm</h1>
  <p class="text-quiet mt-1">Everything here can be changed later under Firm.</p>
  <form class="mt-6 space-y-7" onsubmit={begin} novalidate>
    <section aria-labelledby="code-title">
      <h2 id="code-title" class="text-lg">The code</h2>
      <p class="text-quiet mb-2 text-sm">It was printed where Grate was started: nobody else can begin here.</p>
      <TextField id="code" label="Code" most={40} value={code} errors={errors.code} onchange={(v) => (code = v)} />
    </section>
    <section aria-labelledby="firm-title">
      <h2 id="firm-title" class="mb-2 text-lg">The firm</h2>
      {#if ways}<FirmFields {firm} {ways} {stations} {errors} onchange={(f, w) => ([firm, ways] = [f, w])} />{/if}
    </section>
    <section aria-labelledby="owner-title" class="max-w-md space-y-4">
      <h2 id="owner-title" class="text-lg">You, its owner</h2>
      <TextField
        id="owner-name"
        label="Name"
        most={200}
        value={name}
        errors={errors.name}
        onchange={(v) => (name = v)}
      />
      <TextField
        id="owner-email"
        label="Address to sign in with"
        most={254}
        value={email}
        errors={errors.email}
        onchange={(v) => (email = v)}
      />
      <label class="block"
        ><span class="text-quiet mb-1 block text-sm">Password: at least 12 characters, best some words</span>
        <input
          class="input min-h-11 w-full"
          type="password"
          name="password"
          autocomplete="new-password"
          maxlength="200"
          aria-invalid={!!errors.password}
          bind:value={password}
        />
        {#each errors.password ?? [] as sentence, n (n)}<span class="text-error block text-sm">{sentence}</span>{/each}
      </label>
    </section>
    {#if failed}<p role="alert" class="text-error">{failed}</p>{/if}
    <button class="btn btn-primary btn-lg" disabled={busy}>Begin</button>
  </form>
</main>
