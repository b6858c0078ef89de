<script lang="ts">
  import { api, reply, type Schema } from "../api/client";
  import { dayOf } from "../dates";
  import { tables } from "../tables.svelte";

  let { stoveId }: { stoveId: string } = $props();

  let notes = $state<Schema["HouseholdNote"][]>([]);
  $effect(() => {
    void reply(api.GET("/api/stoves/{id}/household", { params: { path: { id: stoveId } } })).then((answer) => {
      if (answer.kind === "ok") notes = answer.data.notes;
    });
  });
  const said = (n: Schema["HouseholdNote"]) =>
    ({
      night: () =>
        `a night of ${n.hours} h on ${tables.show(n.kg ?? 0, "mass")}, ${tables.word("coals", n.coals).toLowerCase()} coals in the morning`,
      ash: () => `the pan was full after ${n.days} days`,
      wood: () => `${tables.show(n.kg ?? 0, "wood")} of wood bought`,
      note: () => `“${n.text}”`,
      glass: () => "a picture of the glass",
    })[n.kind as "night" | "ash" | "wood" | "note" | "glass"]();
</script>

{#if notes.length}
  <h3 class="mt-7">What the household told</h3>
  <ul>
    {#each notes as note (note.at)}
      <li class="border-base-300 flex gap-3 border-b py-1.5">
        <span class="text-quiet w-28 shrink-0">{dayOf(note.at)}</span><span
          >{said(note)}{#if note.kind === "glass"}<a
              href="/api/stoves/{stoveId}/household/pictures/{note.id}"
              target="_blank"
              ><img
                class="mt-1 max-h-48 rounded"
                src="/api/stoves/{stoveId}/household/pictures/{note.id}"
                alt="The glass, as the household sent it"
              /></a
            >{/if}</span
        >
      </li>
    {/each}
  </ul>
{/if}
