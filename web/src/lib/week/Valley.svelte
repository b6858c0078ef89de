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

  // Drawn as wide as there is room, so that its words can be read on a phone.
  let width = $state(720);
  const height = $derived(Math.max(240, Math.min(420, width / 2)));
  const edge = 56;
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
  // Houses of one town lie so near each other that their numbers are fanned out round it.
  const GOLDEN = 2.4;
  const fan = (k: number) => ({
    dx: 17 * Math.sqrt(k) * Math.cos(GOLDEN * k),
    dy: 17 * Math.sqrt(k) * Math.sin(GOLDEN * k),
  });
  const stops = $derived(routes.flatMap((r) => r.stops));
  const towns = $derived(
    stops
      .filter((s, i) => stops.findIndex((o) => o.place === s.place) === i)
      .map((s) => ({
        name: s.place,
        x: x(s.longitude),
        y: y(s.latitude),
        stops: stops.filter((o) => o.place === s.place).map((o) => o.visitId),
      })),
  );
  const placed = $derived(
    routes.map((route) => ({
      route,
      stops: route.stops.map((stop, i) => {
        const town = towns.find((t) => t.name === stop.place)!;
        const { dx, dy } = fan(town.stops.indexOf(stop.visitId) + 1);
        return { stop, number: i + 1, x: town.x + dx, y: town.y + dy };
      }),
    })),
  );
  const strokes = ["stroke-primary", "stroke-computed", "stroke-base-content", "stroke-quiet"];
  const dashes = [undefined, "7 4", "2 3", "10 3 2 3"];
  const long = (from: { x: number; y: number }, to: { x: number; y: number }) =>
    Math.hypot(to.x - from.x, to.y - from.y) > 75;
</script>

<div bind:clientWidth={width}>
  <svg
    viewBox="0 0 {width} {height}"
    class="bg-base-100 border-base-300 w-full rounded-lg border"
    role="img"
    aria-label="The valley: {routes
      .filter((r) => r.stops.length)
      .map((r) => `${r.name}, ${r.stops.length} stops, ${r.driveMin.toFixed(0)} min driving`)
      .join('; ')}"
  >
    {#each towns as town (town.name)}
      <text
        x={town.x - 24 - 17 * Math.sqrt(town.stops.length)}
        y={town.y + 5}
        text-anchor="end"
        class="fill-quiet font-display text-[15px]">{town.name}</text
      >
    {/each}
    <rect x={x(home.longitude) - 8} y={y(home.latitude) - 8} width="16" height="16" class="fill-base-content"
      ><title>Where the vans start</title></rect
    >
    {#each placed as { route, stops }, r (route.technicianId)}
      {@const dim = lit !== null && lit !== route.technicianId}
      <g class={dim ? "opacity-25" : ""}>
        {#each stops as s, i (s.stop.visitId)}
          {@const before = stops[i - 1] ?? { x: x(home.longitude), y: y(home.latitude) }}
          <path
            d="M{before.x} {before.y} L{s.x} {s.y}"
            class="{strokes[r % strokes.length]} fill-none stroke-2"
            stroke-dasharray={dashes[r % dashes.length]}
          />
          {#if !dim && long(before, s)}
            <text
              x={(before.x + s.x) / 2}
              y={(before.y + s.y) / 2 - 3}
              text-anchor="middle"
              class="fill-base-content stroke-base-100 text-[12px] [paint-order:stroke]"
              stroke-width="4">{s.stop.driveMin.toFixed(0)} min</text
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
          <g>
            <circle cx={s.x} cy={s.y} r="10" class="fill-brick {strokes[r % strokes.length]} stroke-[2.5px]" />
            <text x={s.x} y={s.y + 4} text-anchor="middle" class="fill-base-content text-[12px] font-bold"
              >{s.number}</text
            >
          </g>
        {/each}
      </g>
    {/each}
  </svg>
</div>
<div class="mt-2 flex flex-wrap gap-2" role="group" aria-label="Rounds">
  {#each routes as route, r (route.technicianId)}
    <button
      type="button"
      class="btn btn-sm min-h-11"
      aria-pressed={lit === route.technicianId}
      onclick={() => onlit(route.technicianId)}
    >
      <svg viewBox="0 0 32 8" class="w-8" aria-hidden="true"
        ><path
          d="M0 4 H32"
          class="{strokes[r % strokes.length]} fill-none stroke-[3px]"
          stroke-dasharray={dashes[r % dashes.length]}
        /></svg
      >{route.name}, {route.stops.length} stops, {route.driveMin.toFixed(0)} min
    </button>
  {/each}
</div>
