<script lang="ts">
  import { tick } from "svelte";
  import { dayOf } from "../dates";
  import { photoAddress } from "./photos.svelte";
  import type { VisitState } from "./visit.svelte";

  /** Photos of a part beside it: taken or picked, looked at large, taken away until the visit is signed. */
  let { visit, step, station, part }: { visit: VisitState; step: string; station: string; part: string } = $props();

  const tray = $derived(visit.photos);
  const here = (p: { step: string; station: string; part: string }) => p.station === station && p.part === part;
  const kept = $derived(visit.doc.photos.filter(here));
  // How it looked last time: the way back is easier to find.
  const earlier = $derived((visit.doc.earlier?.photos ?? []).filter(here));
  const all = $derived([...kept, ...earlier]);
  const waiting = $derived(tray.waiting.filter(here));
  let sentence = $state("");
  let shown = $state<string | null>(null);
  let dialog = $state<HTMLDialogElement>();

  async function take(event: Event & { currentTarget: HTMLInputElement }) {
    const files = [...(event.currentTarget.files ?? [])];
    // The same file may be picked again.
    event.currentTarget.value = "";
    await tray.add({ step, station, part }, files);
  }
  async function show(id: string) {
    shown = id;
    await tick();
    dialog?.showModal();
  }
  async function remove(id: string) {
    dialog?.close();
    sentence = await tray.remove(id);
  }
</script>

<div class="flex flex-wrap items-center gap-2">
  {#each all as photo, i (photo.id)}
    <button
      type="button"
      class="border-base-300 cursor-pointer border text-xs"
      aria-label="Photo {i + 1} of {part}{photo.visitId === visit.id ? '' : ', last time'}"
      onclick={() => void show(photo.id)}
    >
      <img
        src={photoAddress(photo)}
        alt=""
        width={photo.width}
        height={photo.height}
        loading="lazy"
        class="h-16 w-auto"
      />{photo.visitId === visit.id ? "" : "last time"}
    </button>
  {/each}
  {#each waiting as photo (photo.id)}
    <figure class="border-base-300 flex items-center gap-2 border border-dashed pr-2">
      <img
        src={photo.url}
        alt="Photo of {part}, not sent yet"
        class="h-16 w-auto {photo.refused ? 'opacity-40' : ''}"
      />
      <figcaption class="max-w-56 text-sm">
        {#if photo.refused}
          <span class="text-error">{photo.refused}</span>
          <button type="button" class="btn btn-sm min-h-11" onclick={() => void tray.again(photo.id)}>Send again</button
          >
          <button type="button" class="btn btn-sm min-h-11" onclick={() => tray.drop(photo.id)}>Leave it out</button>
        {:else}
          <span class={photo.kept === false ? "text-error" : "text-quiet"}
            >{photo.kept === null
              ? "on its way"
              : photo.kept
                ? "kept here, on its way"
                : "on its way; this browser could not keep it: stay on this page until it is sent"}</span
          >
        {/if}
      </figcaption>
    </figure>
  {/each}
  {#if visit.writable}
    <label class="btn min-h-11 cursor-pointer">
      Photo
      <input
        type="file"
        accept="image/jpeg,image/png,image/webp"
        multiple
        class="sr-only"
        aria-label="Photo of {part}"
        onchange={take}
      />
    </label>
  {/if}
</div>
{#if sentence}<p class="text-error text-sm" role="alert">{sentence}</p>{/if}

<dialog bind:this={dialog} class="modal" aria-label="Photo of {part}" onclose={() => (shown = null)}>
  {#if shown}
    {@const id = shown}
    {@const photo = all.find((p) => p.id === id)}
    <div class="modal-box max-w-5xl">
      {#if photo}
        <img src={photoAddress(photo)} alt="The {part}" class="max-h-[70vh] w-full object-contain" />
        <p class="text-quiet mt-2 text-sm">{part}, taken by {photo.savedBy} on {dayOf(photo.savedAt)}</p>
      {/if}
      <form method="dialog" class="mt-2 flex flex-wrap gap-2">
        <button class="btn btn-primary min-h-11">Close</button>
        {#if visit.writable && photo?.visitId === visit.id}
          <button type="button" class="btn min-h-11" onclick={() => void remove(id)}>Take it away</button>
        {/if}
      </form>
    </div>
  {/if}
</dialog>
