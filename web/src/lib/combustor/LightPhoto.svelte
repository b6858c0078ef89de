<script lang="ts">
  import { api, byField, failure, headline, reply, type Reply, type Schema } from "../api/client";
  import NumberField from "../components/NumberField.svelte";
  import SentenceLine from "../components/SentenceLine.svelte";
  import { photoAddress } from "../visits/photos.svelte";
  import type { VisitState } from "../visits/visit.svelte";

  /** The light test by a photo: four corners, cells counted, and the server measures. */
  let {
    visit,
    photo,
    reading,
    onchange,
  }: {
    visit: VisitState;
    photo: Schema["PhotoRow"];
    reading: Schema["LightReading"] | null;
    onchange: (reading: Schema["LightReading"]) => void;
  } = $props();

  const names = ["upper left", "upper right", "lower right", "lower left"];
  const begin = [
    { x: 0.1, y: 0.1 },
    { x: 0.9, y: 0.1 },
    { x: 0.9, y: 0.9 },
    { x: 0.1, y: 0.9 },
  ];
  // svelte-ignore state_referenced_locally
  const kept = reading?.photoId === photo.id ? reading.test : null;
  let corners = $state(begin.map((at, i) => ({ x: kept?.corners?.[i]?.x ?? at.x, y: kept?.corners?.[i]?.y ?? at.y })));
  let across = $state<number | null>(kept?.across ?? null);
  let down = $state<number | null>(kept?.down ?? null);
  let answer = $state<Reply<Schema["LightTestAnswer"]> | null>(null);
  let measuring = $state(false);
  let held = $state<number | null>(null);
  let picture = $state<SVGSVGElement>();

  const round = (share: number) => Math.round(Math.min(1, Math.max(0, share)) * 10000) / 10000;
  const errors = (field: string) => (answer ? (byField(answer)[field] ?? []) : []);
  const dots = $derived(answer?.kind === "ok" ? answer.data.darkAt : []);

  function move(event: PointerEvent) {
    if (held === null) return;
    const box = picture!.getBoundingClientRect();
    corners[held] = {
      x: round((event.clientX - box.left) / box.width),
      y: round((event.clientY - box.top) / box.height),
    };
    answer = null;
  }
  const steps: Record<string, [number, number]> = {
    ArrowLeft: [-1, 0],
    ArrowRight: [1, 0],
    ArrowUp: [0, -1],
    ArrowDown: [0, 1],
  };
  function nudge(event: KeyboardEvent, at: number) {
    const step = steps[event.key];
    if (!step || !visit.writable) return;
    event.preventDefault();
    event.stopPropagation();
    const by = event.shiftKey ? 0.02 : 0.002;
    corners[at] = { x: round(corners[at]!.x + step[0] * by), y: round(corners[at]!.y + step[1] * by) };
    answer = null;
  }
  async function measure() {
    measuring = true;
    const test = { corners: $state.snapshot(corners), across, down };
    answer = await reply(
      api.POST("/api/visits/{id}/photos/{photoId}/light-test", {
        params: { path: { id: visit.id, photoId: photo.id } },
        body: test,
      }),
    );
    measuring = false;
    if (answer.kind !== "ok" || answer.data.darkShare == null) return;
    const { darkShare, lowShare, highShare } = answer.data;
    onchange({ photoId: photo.id, test, darkShare, lowShare, highShare });
  }
</script>

<div class="border-base-300 mt-3 border-l-4 pl-3">
  <p class="text-quiet text-sm">
    Set the four marks on the outer corners of the cells, and count the cells along two sides.
  </p>
  <!-- svelte-ignore a11y_no_static_element_interactions -->
  <svg
    bind:this={picture}
    viewBox="0 0 {photo.width} {photo.height}"
    class="mt-1 max-h-[70vh] w-full touch-none"
    onpointermove={move}
    onpointerup={() => (held = null)}
    onpointercancel={() => (held = null)}
  >
    <image href={photoAddress(photo)} width={photo.width} height={photo.height} aria-hidden="true" />
    <polygon
      points={corners.map((c) => `${c.x * photo.width},${c.y * photo.height}`).join(" ")}
      class="stroke-primary fill-none"
      stroke-width={photo.width / 300}
    />
    {#each dots as dot, i (i)}
      <circle cx={dot.x! * photo.width} cy={dot.y! * photo.height} r={photo.width / 300} class="fill-error" />
    {/each}
    {#each corners as corner, i (names[i])}
      <circle
        role="slider"
        tabindex={visit.writable ? 0 : -1}
        aria-label="Corner {names[i]}: arrow keys move it"
        aria-valuenow={Math.round(corner.x * 100)}
        aria-valuetext="{Math.round(corner.x * 100)} % across, {Math.round(corner.y * 100)} % down"
        cx={corner.x * photo.width}
        cy={corner.y * photo.height}
        r={photo.width / 22}
        class="stroke-primary cursor-move fill-transparent"
        stroke-width={photo.width / 160}
        onpointerdown={(e) => {
          if (!visit.writable) return;
          held = i;
          picture!.setPointerCapture(e.pointerId);
        }}
        onkeydown={(e) => nudge(e, i)}
      />
    {/each}
  </svg>
  {#each errors("corners") as sentence, n (n)}<p class="text-error text-sm">{sentence}</p>{/each}
  <div class="mt-2 grid grid-cols-2 items-start gap-4">
    <NumberField
      id="light-across"
      label="Cells across"
      quantity="count"
      value={across}
      compact
      errors={errors("across")}
      disabled={!visit.writable}
      onchange={(value) => (across = value === null ? null : Math.round(value))}
    />
    <NumberField
      id="light-down"
      label="Cells down"
      quantity="count"
      value={down}
      compact
      errors={errors("down")}
      disabled={!visit.writable}
      onchange={(value) => (down = value === null ? null : Math.round(value))}
    />
    <button
      type="button"
      class="btn btn-primary col-span-2 min-h-11 justify-self-start"
      disabled={!visit.writable || measuring}
      onclick={() => void measure()}>{measuring ? "Measuring …" : "Measure the light"}</button
    >
  </div>
  <div role="status">
    {#if answer?.kind === "ok" && answer.data.darkShare == null}
      {#each answer.data.sentences as sentence, i (i)}<SentenceLine {sentence} />{/each}
    {:else if answer && answer.kind !== "ok"}
      <p class="text-error text-sm">{answer.kind === "away" ? failure(answer) : headline(answer)}</p>
    {/if}
  </div>
</div>
