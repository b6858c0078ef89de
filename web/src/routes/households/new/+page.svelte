<script lang="ts">
  import { goto } from "$app/navigation";
  import { page } from "$app/state";
  import { api, byField, headline, reply, type Problem, type Schema } from "$lib/api/client";
  import NumberField from "$lib/components/NumberField.svelte";
  import TextField from "$lib/components/TextField.svelte";
  import StoveTold from "$lib/books/StoveTold.svelte";
  import { settings } from "$lib/settings.svelte";
  import { tables } from "$lib/tables.svelte";
  import { uuid7 } from "$lib/uuid";

  type Told = Schema["NewHousehold"];
  const [id, stoveId] = [uuid7(), uuid7()];
  let told = $state<Told>({ stove: { kind: "steel" } });
  let errors = $state<Record<string, string[]>>({});
  let failed = $state("");
  let twins = $state<NonNullable<Problem["twins"]>>([]);
  let busy = $state(false);

  const set = (change: Partial<Told>) => (told = { ...told, ...change });
  // A call that led here goes on with the stove.
  const calling = page.url.searchParams.has("call");

  async function keep(despite: boolean) {
    busy = true;
    const body = { id, stoveId, household: told, despite };
    const answer = await reply(api.POST("/api/households", { params: { query: { units: settings.system } }, body }));
    busy = false;
    errors = byField(answer);
    failed = headline(answer);
    twins = answer.kind === "problem" ? (answer.problem.twins ?? []) : [];
    if (answer.kind === "ok") await goto(calling ? `/call?stove=${stoveId}` : `/households/${id}`);
  }
</script>

<svelte:head><title>New household · Grate</title></svelte:head>

<div class="mx-auto max-w-3xl p-6 max-sm:p-3">
  <h1 class="text-2xl">New household</h1>
  <p class="text-quiet mt-1">
    What is left open is taken as usual, marked so, and asked for at the first visit. Name, street and place are enough.
  </p>
  <form
    class="mt-4 space-y-7"
    novalidate
    onsubmit={(e) => {
      e.preventDefault();
      void keep(false);
    }}
  >
    <section class="grid gap-4 sm:grid-cols-2" aria-label="Who">
      <TextField
        id="name"
        label="Name"
        most={200}
        value={told.name ?? ""}
        errors={errors.name}
        onchange={(name) => set({ name })}
      />
      <TextField
        id="phone"
        label="Phone"
        most={60}
        value={told.phone ?? ""}
        errors={errors.phone}
        onchange={(phone) => set({ phone })}
      />
      <TextField
        id="email"
        label="Mail address"
        most={254}
        value={told.email ?? ""}
        errors={errors.email}
        onchange={(email) => set({ email })}
      />
      <TextField
        id="note"
        label="How to get in: dog, key, parking, ladder"
        most={2000}
        value={told.note ?? ""}
        errors={errors.note}
        onchange={(note) => set({ note })}
      />
    </section>
    <section aria-labelledby="house">
      <h2 id="house" class="mb-2 text-lg">House</h2>
      <div class="grid gap-4 sm:grid-cols-2">
        <TextField
          id="street"
          label="Street and number"
          most={200}
          value={told.street ?? ""}
          errors={errors.street}
          onchange={(street) => set({ street })}
        />
        <TextField
          id="place"
          label="Place"
          most={200}
          value={told.place ?? ""}
          errors={errors.place}
          onchange={(place) => set({ place })}
        />
        <label class="block"
          ><span class="text-quiet mb-1 block text-sm">Built</span>
          <select
            class="select min-h-11 w-full"
            value={told.builtEra ?? ""}
            onchange={(e) => set({ builtEra: e.currentTarget.value || null })}
          >
            <option value="">not known</option>
            {#each tables.words("builtEra") as era (era.code)}<option value={era.code}>{era.name}</option>{/each}
          </select></label
        >
        <NumberField
          id="storeys"
          label="Storeys"
          quantity="count"
          value={told.storeys ?? null}
          errors={errors.storeys}
          onchange={(n) => set({ storeys: n === null ? null : Math.round(n) })}
        />
      </div>
      <details class="mt-2" open={!!errors.latitude || !!errors.longitude || !!errors.altitudeM}>
        <summary class="link min-h-11 cursor-pointer py-2">Where it lies</summary>
        <div class="grid gap-4 sm:grid-cols-3">
          <NumberField
            id="latitude"
            label="Latitude, °"
            quantity="ratio"
            compact
            value={told.latitude ?? null}
            errors={errors.latitude}
            onchange={(latitude) => set({ latitude })}
          />
          <NumberField
            id="longitude"
            label="Longitude, °"
            quantity="ratio"
            compact
            value={told.longitude ?? null}
            errors={errors.longitude}
            onchange={(longitude) => set({ longitude })}
          />
          <NumberField
            id="altitude"
            label="Altitude"
            quantity="altitude"
            compact
            value={told.altitudeM ?? null}
            errors={errors.altitudeM}
            onchange={(altitudeM) => set({ altitudeM })}
          />
        </div>
      </details>
    </section>
    <section aria-labelledby="stove">
      <h2 id="stove" class="mb-2 text-lg">Stove</h2>
      <StoveTold stove={told.stove ?? {}} {errors} onchange={(stove) => set({ stove })} />
    </section>
    {#if failed}
      <div role="alert" class="border-primary border-l-4 pl-3">
        <p class={twins.length ? "" : "text-error"}>{failed}</p>
        {#each twins as twin (twin.id)}
          <p><a class="link" href="/households/{twin.id}">{twin.name}, {twin.street}, {twin.place}</a></p>
        {/each}
        {#if twins.length}
          <button type="button" class="btn mt-2 min-h-11" disabled={busy} onclick={() => keep(true)}
            >It is another household</button
          >
        {/if}
      </div>
    {/if}
    <button class="btn btn-primary btn-lg" disabled={busy}>Write it down</button>
  </form>
</div>
