<script lang="ts">
  import { keys } from "../keys.svelte";
  import { settings } from "../settings.svelte";
  let dialog = $state<HTMLDialogElement>();
  $effect(() => {
    if (keys.help) dialog?.showModal();
    else dialog?.close();
  });
</script>

<dialog bind:this={dialog} class="modal" aria-labelledby="keys-title" onclose={() => (keys.help = false)}>
  <div class="modal-box">
    <h2 id="keys-title" class="mb-3 text-xl">Keys</h2>
    <dl class="grid grid-cols-[6rem_1fr] gap-y-1">
      {#each [...keys.page, ...keys.everywhere] as key (key.key + key.does)}
        <dt><kbd class="kbd kbd-sm">{key.shown ?? key.key}</kbd></dt>
        <dd>{key.does}</dd>
      {/each}
    </dl>
    <label class="mt-4 flex min-h-11 items-center gap-2"
      ><input type="checkbox" class="checkbox" checked={settings.keys} onchange={() => settings.toggleKeys()} /> Keys are
      on</label
    >
    <form method="dialog" class="modal-action"><button class="btn">Close</button></form>
  </div>
</dialog>
