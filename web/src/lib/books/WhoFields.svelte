<script lang="ts">
  import type { Schema } from "../api/client";
  import Choices from "../components/Choices.svelte";
  import TakeOut from "../components/TakeOut.svelte";
  import TextField from "../components/TextField.svelte";
  import Tick from "../components/Tick.svelte";
  import { tables } from "../tables.svelte";

  /** Whom else one calls, in which language one writes, and when they want a visit. */
  interface Who {
    contacts?: Schema["Contact"][] | null;
    language?: string | null;
    wish?: Schema["VisitWish"] | null;
  }
  interface Props {
    value: Who;
    errors: Record<string, string[]>;
    disabled?: boolean;
    onchange: (change: Partial<Who>) => void;
  }
  let { value, errors, disabled = false, onchange }: Props = $props();
  const uid = $props.id();

  const contacts = $derived(value.contacts ?? []);
  const wish = $derived({
    when: value.wish?.when ?? "any",
    notOn: value.wish?.notOn ?? [],
    coldFrom: value.wish?.coldFrom,
  });
  const setContact = (i: number, change: Partial<Schema["Contact"]>) =>
    onchange({ contacts: contacts.with(i, { ...contacts[i]!, ...change }) });
  const setWish = (change: Partial<Schema["VisitWish"]>) => onchange({ wish: { ...wish, ...change } });
  const days = $derived(tables.words("workDay"));
</script>

<fieldset class="mt-4">
  <legend class="text-quiet text-sm">Who else is called</legend>
  {#each contacts as contact, i (i)}
    <div class="mt-2 grid items-end gap-3 sm:grid-cols-[1fr_1fr_1fr_auto]">
      {#each [{ code: "whose", label: "Whose number it is", most: 100 }, { code: "phone", label: "Phone", most: 60 }, { code: "email", label: "Mail address", most: 254 }] as const as f (f.code)}
        <TextField
          id="{uid}-{f.code}-{i}"
          label={f.label}
          most={f.most}
          value={contact[f.code] ?? ""}
          {disabled}
          errors={errors[`contacts[${i}].${f.code}`]}
          onchange={(text) => setContact(i, { [f.code]: text })}
        />
      {/each}
      {#if !disabled}
        <TakeOut
          label="Take {contact.whose || 'this number'} out"
          onclick={() => onchange({ contacts: contacts.toSpliced(i, 1) })}
        />
      {/if}
    </div>
  {/each}
  {#if !disabled}
    <button
      type="button"
      class="btn btn-sm mt-2 min-h-11"
      onclick={() => onchange({ contacts: [...contacts, { whose: "", phone: "", email: "" }] })}>Another number</button
    >
  {/if}
</fieldset>
<fieldset class="mt-4">
  <legend class="text-quiet text-sm">When they want a visit</legend>
  <div class="flex flex-wrap items-center gap-4">
    <Choices
      label="When they can"
      options={tables.words("dayPart")}
      value={wish.when}
      {disabled}
      onchange={(when) => setWish({ when: when as typeof wish.when })}
    />
    <label class="text-quiet text-sm"
      >Stove cold from <input
        class="input min-h-11 w-32"
        type="time"
        {disabled}
        value={wish.coldFrom?.slice(0, 5) ?? ""}
        onchange={(e) => setWish({ coldFrom: e.currentTarget.value ? `${e.currentTarget.value}:00` : null })}
      /></label
    >
  </div>
  <div class="flex flex-wrap gap-x-4">
    <span class="text-quiet self-center text-sm">Not on</span>
    {#each days as day (day.code)}
      <Tick
        label={day.name}
        checked={wish.notOn.includes(day.code as never)}
        {disabled}
        onchange={(on) =>
          setWish({
            notOn: days
              .map((d) => d.code)
              .filter((d) => (d === day.code ? on : wish.notOn.includes(d as never))) as never,
          })}
      />
    {/each}
  </div>
  {#each [...(errors["wish.notOn"] ?? []), ...(errors["wish.when"] ?? [])] as sentence, n (n)}<p
      class="text-error text-sm"
    >
      {sentence}
    </p>{/each}
</fieldset>
<label class="mt-4 block max-w-xs"
  ><span class="text-quiet mb-1 block text-sm">Written to in</span>
  <select
    class="select min-h-11 w-full"
    id="{uid}-language"
    {disabled}
    value={value.language ?? ""}
    onchange={(e) => onchange({ language: e.currentTarget.value })}
  >
    <option value="">the first language</option>
    {#each tables.words("language") as l (l.code)}<option value={l.code}>{l.name}</option>{/each}
  </select></label
>
