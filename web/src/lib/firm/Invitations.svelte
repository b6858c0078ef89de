<script lang="ts">
  import { api, byField, headline, reply, type Schema } from "../api/client";
  import Choices from "../components/Choices.svelte";
  import TakeOut from "../components/TakeOut.svelte";
  import TextField from "../components/TextField.svelte";
  import { clock } from "../clock";
  import { dayOf } from "../dates";

  type Role = "technician" | "office" | "owner";
  let waiting = $state<Schema["Invitation"][]>([]);
  let name = $state("");
  let email = $state("");
  let role = $state<Role>("technician");
  let errors = $state<Record<string, string[]>>({});
  let failed = $state("");
  let link = $state("");

  async function load() {
    const answer = await reply(api.GET("/api/invitations"));
    if (answer.kind === "ok") waiting = answer.data;
  }
  void load();

  async function invite(event: SubmitEvent) {
    event.preventDefault();
    const answer = await reply(api.POST("/api/invitations", { body: { name, email, role } }));
    errors = byField(answer);
    failed = Object.keys(errors).length ? "" : headline(answer);
    if (answer.kind !== "ok") return;
    link = new URL(answer.data.path, location.href).href;
    name = email = "";
    await load();
  }

  async function withdraw(id: string) {
    await reply(api.DELETE("/api/invitations/{id}", { params: { path: { id } } }));
    await load();
  }
  const over = (i: Schema["Invitation"]) => Date.parse(i.endsAt) < clock.now();
</script>

<section aria-labelledby="invite" class="mt-8">
  <h2 id="invite" class="text-lg">Invite somebody</h2>
  <form class="mt-2 flex flex-wrap items-end gap-3" onsubmit={invite} novalidate>
    <TextField
      id="invite-name"
      label="Name"
      most={200}
      value={name}
      errors={errors.name}
      onchange={(v) => (name = v)}
    />
    <TextField
      id="invite-email"
      label="Address"
      most={254}
      value={email}
      errors={errors.email}
      onchange={(v) => (email = v)}
    />
    <Choices
      label="Role"
      options={[
        { code: "technician", name: "Technician" },
        { code: "office", name: "Office" },
        { code: "owner", name: "Owner" },
      ] as const}
      value={role}
      onchange={(r) => (role = r)}
    />
    <button class="btn min-h-11">Invite</button>
  </form>
  {#if failed}<p role="alert" class="text-error">{failed}</p>{/if}
  {#if link}
    <p role="status" class="mt-3">
      A message lies in the outbox. Its link works once, for three days: <code class="measured break-all">{link}</code>
    </p>
  {/if}
  <ul class="mt-3">
    {#each waiting as i (i.id)}
      <li class="border-base-300 flex flex-wrap items-center gap-x-3 border-b py-1">
        <strong>{i.name}</strong> <span class="text-quiet">{i.role}, {i.email}</span>
        <span class={over(i) ? "text-error" : "text-quiet"}
          >{over(i) ? "over since" : "works until"} {dayOf(i.endsAt)}</span
        >
        <span class="ml-auto"
          ><TakeOut label="Withdraw the invitation of {i.name}" onclick={() => withdraw(i.id)} /></span
        >
      </li>
    {/each}
  </ul>
</section>
