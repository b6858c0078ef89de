<script lang="ts">
  import type { Schema } from "../api/client";
  import Choices from "../components/Choices.svelte";
  import TextField from "../components/TextField.svelte";
  import Tick from "../components/Tick.svelte";

  /** A firm as it is entered: at the beginning, and later under Firm. */
  type Entry = Schema["FirmEntry"];
  interface Props {
    firm: Entry;
    ways: Schema["FirmWays"];
    stations: Schema["ClimateStation"][];
    errors: Record<string, string[]>;
    disabled?: boolean;
    onchange: (firm: Entry, ways: Schema["FirmWays"]) => void;
  }
  let { firm, ways, stations, errors, disabled = false, onchange }: Props = $props();

  const days = ["monday", "tuesday", "wednesday", "thursday", "friday", "saturday", "sunday"];
  const months = [
    "January",
    "February",
    "March",
    "April",
    "May",
    "June",
    "July",
    "August",
    "September",
    "October",
    "November",
    "December",
  ];
  const set = (change: Partial<Entry>) => onchange({ ...firm, ...change }, ways);
  const work = (change: Partial<Schema["FirmWays"]>) => onchange(firm, { ...ways, ...change });
  const contact = $derived({ phone: "", email: "", address: "", emergency: "", ...firm.contact });
  const reach = (change: Partial<Schema["FirmContact"]>) => set({ contact: { ...contact, ...change } });
  const refused = (field: string) => errors[field] ?? errors[`firm.${field}`] ?? [];
  const near = $derived(
    stations.find((s) => s.latitude === ways.home?.latitude && s.longitude === ways.home?.longitude)?.code ?? "",
  );

  // The nearest known place brings where the firm is, and its time zone.
  function settle(code: string) {
    const station = stations.find((s) => s.code === code);
    if (!station) return;
    const { latitude, longitude, altitudeM } = station;
    onchange({ ...firm, timeZone: station.timeZone }, { ...ways, home: { latitude, longitude, altitudeM } });
  }
  const home = (change: Partial<Schema["Whereabouts"]>) =>
    work({ home: { ...(ways.home ?? { latitude: 0, longitude: 0, altitudeM: 0 }), ...change } });
</script>

{#snippet number(label: string, value: number | null, field: string, step: string, onset: (n: number) => void)}
  <label class="block"
    ><span class="text-quiet mb-1 block text-sm">{label}</span>
    <input
      class="input measured min-h-11 w-36"
      type="number"
      {step}
      {disabled}
      value={value ?? ""}
      aria-invalid={refused(field).length > 0}
      onchange={(e) => e.currentTarget.value !== "" && onset(e.currentTarget.valueAsNumber)}
    />
    {#each refused(field) as sentence, n (n)}<span class="text-error block text-sm">{sentence}</span>{/each}
  </label>
{/snippet}

<div class="grid gap-4 sm:grid-cols-2">
  <TextField
    id="firm-name"
    label="The firm's name"
    most={200}
    value={firm.name}
    {disabled}
    errors={refused("name")}
    onchange={(name) => set({ name })}
  />
  <TextField
    id="firm-place"
    label="Its place"
    most={200}
    value={firm.place}
    {disabled}
    errors={refused("place")}
    onchange={(place) => set({ place })}
  />
  <label class="block"
    ><span class="text-quiet mb-1 block text-sm">Known place that is nearest: climate, time zone and where it lies</span
    >
    <select
      class="select min-h-11 w-full"
      {disabled}
      aria-label="Nearest known place"
      value={near}
      onchange={(e) => settle(e.currentTarget.value)}
    >
      <option value="">{ways.home ? "as entered below" : "choose one"}</option>
      {#each stations as s (s.code)}<option value={s.code}>{s.name}</option>{/each}
    </select></label
  >
  <TextField
    id="firm-zone"
    label="Time zone"
    most={60}
    value={firm.timeZone}
    {disabled}
    errors={refused("timeZone")}
    onchange={(timeZone) => set({ timeZone })}
  />
</div>
<div class="mt-4 flex flex-wrap gap-4">
  {@render number("Latitude, °", ways.home?.latitude ?? null, "ways.home.latitude", "any", (latitude) =>
    home({ latitude }),
  )}
  {@render number("Longitude, °", ways.home?.longitude ?? null, "ways.home.longitude", "any", (longitude) =>
    home({ longitude }),
  )}
  {@render number("Altitude, m", ways.home?.altitudeM ?? null, "ways.home.altitudeM", "any", (altitudeM) =>
    home({ altitudeM }),
  )}
</div>
<fieldset class="mt-6">
  <legend class="text-lg">How you are reached</legend>
  <p class="text-quiet mb-2 text-sm">
    It stands on letters, reports and pages of households; letters come from the mail address.
  </p>
  <div class="grid gap-4 sm:grid-cols-2">
    <TextField
      id="firm-phone"
      label="Telephone"
      most={40}
      value={contact.phone}
      {disabled}
      errors={refused("contact.phone")}
      onchange={(phone) => reach({ phone })}
    />
    <TextField
      id="firm-email"
      label="Mail address"
      most={254}
      value={contact.email}
      {disabled}
      errors={refused("contact.email")}
      onchange={(email) => reach({ email })}
    />
    <TextField
      id="firm-address"
      label="Address, as on a letter"
      most={300}
      rows={2}
      value={contact.address}
      {disabled}
      errors={refused("contact.address")}
      onchange={(address) => reach({ address })}
    />
    <TextField
      id="firm-emergency"
      label="Emergency number of your place"
      most={20}
      value={contact.emergency}
      {disabled}
      errors={refused("contact.emergency")}
      onchange={(emergency) => reach({ emergency })}
    />
  </div>
</fieldset>
<div class="mt-6 flex flex-wrap items-end gap-4">
  <Choices
    label="School of sweeping"
    options={[
      { code: "forecast", name: "Sweep by the forecast" },
      { code: "quarterly", name: "Once per quarter of use" },
    ]}
    value={ways.sweeping ?? "forecast"}
    {disabled}
    onchange={(sweeping) => work({ sweeping })}
  />
  <label class="block"
    ><span class="text-quiet mb-1 block text-sm">Households begin to heat in</span>
    <select
      class="select min-h-11"
      {disabled}
      value={String(ways.seasonMonth ?? "")}
      onchange={(e) => work({ seasonMonth: e.currentTarget.value ? Number(e.currentTarget.value) : null })}
    >
      <option value="">the month of each house's climate</option>
      {#each months as month, i (month)}<option value={String(i + 1)}>{month}</option>{/each}
    </select></label
  >
</div>
<fieldset class="mt-6">
  <legend class="text-lg">Working days</legend>
  <div class="flex flex-wrap gap-x-4">
    {#each days as day (day)}
      <Tick
        label={day[0]!.toUpperCase() + day.slice(1)}
        checked={ways.workDays.includes(day)}
        {disabled}
        onchange={(on) => work({ workDays: days.filter((d) => (d === day ? on : ways.workDays.includes(d))) })}
      />
    {/each}
  </div>
  {#each refused("ways.workDays") as sentence, n (n)}<p class="text-error text-sm">{sentence}</p>{/each}
  <div class="mt-2 flex flex-wrap gap-4">
    {#each [{ code: "from", label: "From" }, { code: "to", label: "To" }] as const as end (end.code)}
      <label class="block"
        ><span class="text-quiet mb-1 block text-sm">{end.label}</span>
        <input
          class="input min-h-11 w-32"
          type="time"
          {disabled}
          value={ways[end.code].slice(0, 5)}
          onchange={(e) => e.currentTarget.value && work({ [end.code]: `${e.currentTarget.value}:00` })}
        /></label
      >
    {/each}
    {@render number(
      "Hours a week for due visits, each",
      firm.serviceHoursWeek ?? 20,
      "serviceHoursWeek",
      "0.5",
      (serviceHoursWeek) => set({ serviceHoursWeek }),
    )}
    {@render number(
      "Months between inspections",
      firm.inspectionMonths ?? 12,
      "inspectionMonths",
      "1",
      (inspectionMonths) => set({ inspectionMonths }),
    )}
  </div>
  {#each refused("ways.to") as sentence, n (n)}<p class="text-error text-sm">{sentence}</p>{/each}
</fieldset>
<div class="mt-6 flex flex-wrap items-end gap-4">
  <TextField
    id="firm-currency"
    label="Currency"
    most={8}
    value={ways.currency}
    {disabled}
    errors={refused("ways.currency")}
    onchange={(currency) => work({ currency })}
  />
  <Choices
    label="Units of a new browser"
    options={[
      { code: "metric", name: "Metric" },
      { code: "us", name: "US units" },
    ]}
    value={ways.units as string}
    {disabled}
    onchange={(units) => work({ units: units as typeof ways.units })}
  />
  <Choices
    label="Paper"
    options={[
      { code: "a4", name: "A4" },
      { code: "letter", name: "Letter" },
    ]}
    value={ways.paper as string}
    {disabled}
    onchange={(paper) => work({ paper: paper as typeof ways.paper })}
  />
</div>
