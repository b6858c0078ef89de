<script lang="ts">
  import type { Schema } from "../api/client";
  import { minuteOf, timeOf } from "./plan";

  /** A day of the week as a wall: a brick is a visit, as long as it takes; the joint between two is the drive. */
  type Visit = Schema["WeekVisit"];
  interface Props {
    visits: Visit[];
    technicians: Schema["Technician"][];
    ways: Schema["FirmWays"];
    /** Who is away that day. */
    away: Schema["Absence"][];
    picked: string | null;
    movable: boolean;
    onpick: (visit: Visit) => void;
    ondrop: (visit: Visit, technicianId: string, time: string) => void;
    /** What it would cost to let go there, in words. */
    costOf: (visit: Visit, technicianId: string, time: string) => Promise<string>;
  }
  let { visits, technicians, ways, away, picked, movable, onpick, ondrop, costOf }: Props = $props();

  const RASTER = 15;
  // The firm's hours, wider where somebody goes out earlier or later.
  const from = $derived(Math.floor(Math.min(minuteOf(ways.from), ...visits.map((v) => minuteOf(v.from))) / 60) * 60);
  const to = $derived(Math.ceil(Math.max(minuteOf(ways.to), ...visits.map((v) => minuteOf(v.to))) / 60) * 60);
  const hours = $derived(Array.from({ length: (to - from) / 60 + 1 }, (_, i) => from / 60 + i));
  const across = (minute: number) => ((minute - from) / (to - from)) * 100;
  const rows = $derived([
    ...technicians,
    ...visits
      .filter((v) => !technicians.some((t) => t.id === v.stop.technicianId))
      .map((v) => ({ id: v.stop.technicianId, name: v.stop.technician })),
  ]);

  let held = $state<{ visit: Visit; x: number; y: number; dx: number; dy: number; target: HTMLElement } | null>(null);

  function lift(event: PointerEvent, visit: Visit) {
    if (!movable || visit.stop.state !== "open" || event.button !== 0) return;
    const target = event.currentTarget as HTMLElement;
    target.setPointerCapture(event.pointerId);
    held = { visit, x: event.clientX, y: event.clientY, dx: 0, dy: 0, target };
  }
  // Where it would lie if it were let go now; null where it stays.
  function over(): { technicianId: string; time: string } | null {
    const { visit, dx, dy, target } = held!;
    // A hand that trembles moves nothing.
    if (Math.hypot(dx, dy) < 6) return null;
    const lane = target.closest("[data-lane]")!;
    const minutes = Math.round(((dx / lane.clientWidth) * (to - from)) / RASTER) * RASTER;
    const row = rows.findIndex((r) => r.id === visit.stop.technicianId) + Math.round(dy / lane.clientHeight);
    const technician = rows[Math.max(0, Math.min(rows.length - 1, row))]!;
    const time = timeOf(minuteOf(visit.from) + minutes);
    return technician.id !== visit.stop.technicianId || minutes !== 0 ? { technicianId: technician.id, time } : null;
  }

  let cost = $state("");
  let asked = "";
  let soon: ReturnType<typeof setTimeout> | undefined;
  function drag(event: PointerEvent) {
    if (!held) return;
    held = { ...held, dx: event.clientX - held.x, dy: event.clientY - held.y };
    const [{ visit }, there] = [held, over()];
    const place = there ? `${there.technicianId} ${there.time}` : "";
    if (place === asked) return;
    [asked, cost] = [place, ""];
    clearTimeout(soon);
    if (there)
      soon = setTimeout(async () => {
        const words = await costOf(visit, there.technicianId, there.time);
        if (asked === place) cost = words;
      }, 120);
  }
  function letGo() {
    clearTimeout(soon);
    [held, cost, asked] = [null, "", ""];
  }
  function drop() {
    if (!held) return;
    const [{ visit }, there] = [held, over()];
    letGo();
    if (there) ondrop(visit, there.technicianId, there.time);
  }
</script>

<p class="computed min-h-6 text-sm" aria-live="polite" data-cost>{cost}</p>
<div class="overflow-x-auto">
  <div class="min-w-[44rem] pr-4">
    <div class="text-quiet relative ml-32 h-6 text-xs" aria-hidden="true">
      {#each hours as hour (hour)}<span class="absolute -translate-x-1/2" style="left:{across(hour * 60)}%">{hour}</span
        >{/each}
    </div>
    {#each rows as technician (technician.id)}
      {@const own = visits.filter((v) => v.stop.technicianId === technician.id)}
      <div class="flex">
        <div class="w-32 shrink-0 py-4 pr-2">
          <strong>{technician.name}</strong>
          {#each away.filter((a) => a.personId === technician.id) as a (a.id)}
            <span class="block text-sm">away{a.why ? `: ${a.why}` : ""}</span>
          {/each}
          {#if own.length}<span class="computed block text-sm"
              >{own.reduce((sum, v) => sum + (v.driveMin ?? 0), 0).toFixed(0)} min driving</span
            >{/if}
        </div>
        <ul
          data-lane
          class="border-base-300 relative h-24 grow border-b {away.some((a) => a.personId === technician.id)
            ? 'hatched'
            : ''}"
          aria-label={technician.name}
        >
          {#each hours as hour (hour)}<li
              aria-hidden="true"
              class="border-base-300 absolute inset-y-0 border-l"
              style="left:{across(hour * 60)}%"
            ></li>{/each}
          {#each visits.filter((v) => v.stop.helpers.includes(technician.id)) as v (v.stop.visitId)}
            <li
              class="absolute inset-y-4"
              style="left:{across(minuteOf(v.from))}%;width:{across(minuteOf(v.to)) - across(minuteOf(v.from))}%"
            >
              <button
                type="button"
                class="border-base-content size-full overflow-hidden rounded-sm border-2 border-dashed p-1 text-left text-xs leading-tight"
                onclick={() => onpick(v)}
              >
                <strong class="block truncate">{v.stop.street}</strong>
                <span class="block truncate">with {v.stop.technician}</span>
              </button>
            </li>
          {/each}
          {#each own as v, i (v.stop.visitId)}
            {@const left = across(minuteOf(v.from))}
            {@const moved = held?.visit === v ? held : null}
            {#if v.driveMin != null && i > 0}
              <li
                aria-hidden="true"
                class="absolute top-1/2 h-1.5 {v.driveMin > minuteOf(v.from) - minuteOf(own[i - 1]!.to)
                  ? 'bg-error'
                  : 'bg-quiet'}"
                style="left:{across(minuteOf(own[i - 1]!.to))}%;width:{Math.max(
                  0,
                  Math.min(left - across(minuteOf(own[i - 1]!.to)), across(from + v.driveMin)),
                )}%"
              ></li>
            {/if}
            <li class="absolute inset-y-2" style="left:{left}%;width:{across(minuteOf(v.to)) - left}%">
              <button
                type="button"
                class="size-full touch-none overflow-hidden rounded-sm border-2 p-1 text-left text-xs leading-tight {v
                  .stop.stops > 0
                  ? 'border-error'
                  : 'border-base-content'} {v.stop.state === 'signed' ? 'bg-base-200' : 'bg-brick'} {picked ===
                v.stop.visitId
                  ? 'outline-primary outline-3'
                  : ''}"
                style={moved
                  ? `translate:${moved.dx}px ${moved.dy}px;border-style:dashed;z-index:5;position:relative`
                  : ""}
                aria-pressed={picked === v.stop.visitId}
                onclick={() => onpick(v)}
                onpointerdown={(e) => lift(e, v)}
                onpointermove={drag}
                onpointerup={drop}
                onpointercancel={letGo}
              >
                <strong class="block truncate text-sm">{v.stop.street}</strong>
                {#if i > 0 && v.driveMin != null && v.driveMin > minuteOf(v.from) - minuteOf(own[i - 1]!.to)}
                  <span class="text-error block truncate font-bold"
                    >drive {v.driveMin.toFixed(0)} min, {minuteOf(v.from) - minuteOf(own[i - 1]!.to)} there</span
                  >
                {/if}
                {#if v.stop.asked}<span class="block truncate font-bold">asks for another date</span>
                {:else}<span class="block truncate">{v.stop.purpose}</span>{/if}
                <span class="block truncate"
                  >{v.from.slice(0, 5)}–{v.to.slice(0, 5)}{v.stop.state === "signed" ? ", signed" : ""}</span
                >
              </button>
            </li>
          {/each}
        </ul>
      </div>
    {/each}
  </div>
</div>
