<script lang="ts">
  import type { Schema } from "../api/client";

  /** A day's round drawn as the valley it goes through: houses where they lie, drives as lines with their minutes. */
  interface Props {
    home: Schema["Whereabouts"];
    routes: Schema["DayRoute"][];
    /** Round that is looked at; the others stand behind it. */
    lit: string | null;
    onlit: (technicianId: string) => void;
  }
  let { home, routes, lit, onlit }: Props = $props();

  const width = 720;
  const height = 420;
  const edge = 60;
  const points = $derived([
    { lat: home.latitude, lon: home.longitude },
    ...routes.flatMap((r) => r.stops.map((s) => ({ lat: s.latitude, lon: s.longitude }))),
  ]);
  // A degree of longitude is the shorter the farther north; never nearer than a kilometre across.
  const squeeze = $derived(Math.cos((home.latitude * Math.PI) / 180));
  const west = $derived(Math.min(...points.map((p) => p.lon)) * squeeze);
  const east = $derived(Math.max(...points.map((p) => p.lon)) * squeeze);
  const south = $derived(Math.min(...points.map((p) => p.lat)));
  const north = $derived(Math.max(...points.map((p) => p.lat)));
  const scale = $derived(
    Math.min((width - 2 * edge) / Math.max(east - west, 0.01), (height - 2 * edge) / Math.max(north - south, 0.01)),
  );
  const x = (lon: number) => width / 2 + (lon * squeeze - (west + east) / 2) * scale;
  const y = (lat: number) => height / 2 - (lat - (south + north) / 2) * scale;
  // Two houses of one street would lie on each other.
  const spread = (i: number) => ({ dx: ((i * 37) % 17) - 8, dy: ((i * 23) % 15) - 7 });
  const placed = $derived(
    routes.map((r, route) => ({
      route: r,
      stops: r.stops.map((s, i) => {
        const { dx, dy } = spread(route * 5 + i);
        return { stop: s, number: i + 1, x: x(s.longitude) + dx, y: y(s.latitude) + dy };
      }),
    })),
  );
  const strokes = ["stroke-primary", "stroke-computed", "stroke-measured", "stroke-quiet"];
  const towns = $derived([...new Map(routes.flatMap((r) => r.stops).map((s) => [s.place, s])).values()]);
</script>

<svg
  viewBox="0 0 {width} {height}"
  class="bg-base-100 border-base-300 w-full rounded-lg border"
  role="img"
  aria-label="The valley: {routes
    .filter((r) => r.stops.length)
    .map((r) => `${r.name}, ${r.stops.length} stops, ${r.driveMin.toFixed(0)} min driving`)
    .join('; ')}"
>
  {#each towns as town (town.place)}
    <text
      x={x(town.longitude)}
      y={y(town.latitude) - 22}
      text-anchor="middle"
      class="fill-quiet font-display text-[15px]">{town.place}</text
    >
  {/each}
  {#each placed as { route, stops }, r (route.technicianId)}
    {@const dim = lit !== null && lit !== route.technicianId}
    <g class={dim ? "opacity-25" : ""}>
      {#each stops as s, i (s.stop.visitId)}
        {@const before = stops[i - 1] ?? { x: x(home.longitude), y: y(home.latitude) }}
        <path
          d="M{before.x} {before.y} L{s.x} {s.y}"
          class="{strokes[r % strokes.length]} fill-none stroke-2"
          stroke-dasharray={r % 2 ? "7 4" : undefined}
        />
        {#if !dim && s.stop.driveMin >= 1}
          <text
            x={(before.x + s.x) / 2}
            y={(before.y + s.y) / 2 - 3}
            text-anchor="middle"
            class="fill-base-content text-[12px]">{s.stop.driveMin.toFixed(0)} min</text
          >
        {/if}
      {/each}
      {#if stops.length}
        {@const last = stops[stops.length - 1]!}
        <path
          d="M{last.x} {last.y} L{x(home.longitude)} {y(home.latitude)}"
          class="{strokes[r % strokes.length]} fill-none stroke-1"
          stroke-dasharray="2 4"
        />
      {/if}
      {#each stops as s (s.stop.visitId)}
        <!-- svelte-ignore a11y_click_events_have_key_events, a11y_no_static_element_interactions -->
        <g onclick={() => onlit(route.technicianId)} class="cursor-pointer">
          <circle cx={s.x} cy={s.y} r="11" class="fill-brick stroke-base-content stroke-2" />
          <text x={s.x} y={s.y + 4} text-anchor="middle" class="fill-base-content text-[12px] font-bold"
            >{s.number}</text
          >
        </g>
      {/each}
    </g>
  {/each}
  <rect x={x(home.longitude) - 8} y={y(home.latitude) - 8} width="16" height="16" class="fill-base-content"
    ><title>Where the vans start</title></rect
  >
</svg>
