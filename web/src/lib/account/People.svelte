<script lang="ts">
  import { api, reply, refusals, type Schema } from "../api/client";
  import { dayOf } from "../dates";
  import { session } from "../session.svelte";
  import Tick from "../components/Tick.svelte";
  import { tables } from "../tables.svelte";
  import PasswordForm from "./PasswordForm.svelte";

  type Person = Schema["PersonLine"];
  let people = $state<Person[]>([]);
  let failed = $state<string[]>([]);
  let done = $state("");
  let visitsTo = $state<Record<string, string>>({});

  async function load() {
    const answer = await reply(api.GET("/api/people"));
    failed = refusals(answer);
    if (answer.kind === "ok") people = answer.data;
  }
  void load();

  const takers = (of: Person) => people.filter((p) => p.role === "technician" && !p.disabledAt && p.id !== of.id);

  async function remove(person: Person) {
    const body = { visitsTo: visitsTo[person.id] || null };
    failed = refusals(await reply(api.POST("/api/people/{id}/remove", { params: { path: { id: person.id } }, body })));
    done = failed.length ? "" : `${person.name} can sign in no more; what they signed keeps their name.`;
    if (failed.length === 0) await load();
  }

  async function setSkill(person: Person, skill: string, on: boolean) {
    const skills = tables
      .words("skill")
      .map((s) => s.code)
      .filter((s) => (s === skill ? on : person.skills.includes(s)));
    failed = refusals(
      await reply(
        api.PUT("/api/people/{id}/skills", { params: { path: { id: person.id } }, body: { skills: skills as never } }),
      ),
    );
    if (failed.length === 0) await load();
  }

  async function give(person: Person, password: string) {
    const refused = refusals(
      await reply(api.PUT("/api/people/{id}/password", { params: { path: { id: person.id } }, body: { password } })),
    );
    if (refused.length === 0)
      done = `${person.name} signs in with the new password; older sessions end within a minute.`;
    return refused;
  }
</script>

<section aria-labelledby="people" class="mt-8">
  <h2 id="people" class="text-lg">People of the firm</h2>
  {#each failed as sentence, n (n)}<p role="alert" class="text-error">{sentence}</p>{/each}
  {#if done}<p role="status">{done}</p>{/if}
  <ul>
    {#each people as person (person.id)}
      <li class="border-base-300 border-b py-3">
        <div class="flex flex-wrap items-baseline gap-x-3">
          <strong>{person.name}</strong>
          <span class="text-quiet">{person.role}, {person.email}</span>
          {#if person.disabledAt}<span class="text-quiet">left {dayOf(person.disabledAt)}</span>
          {:else if person.openVisits}<span class="measured">{person.openVisits} open visits</span>{/if}
        </div>
        {#if !person.disabledAt && person.role === "technician"}
          <div class="flex flex-wrap gap-x-4" role="group" aria-label="What {person.name} can do">
            {#each tables.words("skill") as skill (skill.code)}
              <Tick
                label={skill.name}
                checked={person.skills.includes(skill.code)}
                onchange={(on) => setSkill(person, skill.code, on)}
              />
            {/each}
          </div>
        {/if}
        {#if !person.disabledAt && person.id !== session.person?.id}
          <details class="mt-1">
            <summary class="link cursor-pointer text-sm">Password, or leaving the firm</summary>
            <div class="mt-3 space-y-5 pl-4">
              <PasswordForm send={(password) => give(person, password)} />
              <div class="flex flex-wrap items-end gap-3">
                {#if person.openVisits}
                  <label class="block"
                    ><span class="text-quiet mb-1 block text-sm">Their open visits go to</span>
                    <select class="select" bind:value={visitsTo[person.id]}>
                      <option value="">nobody yet</option>
                      {#each takers(person) as t (t.id)}<option value={t.id}>{t.name}</option>{/each}
                    </select></label
                  >
                {/if}
                <button class="btn min-h-11" onclick={() => remove(person)}>End their access</button>
              </div>
            </div>
          </details>
        {/if}
      </li>
    {/each}
  </ul>
</section>
