<script lang="ts">
  import type { Schema } from "../api/client";
  import TextField from "../components/TextField.svelte";

  interface Props {
    customer: Schema["Customer"];
    errors: Record<string, string[]>;
    disabled: boolean;
    keep: (customer: Schema["Customer"]) => Promise<boolean>;
  }
  let { customer, errors, disabled, keep }: Props = $props();
  // svelte-ignore state_referenced_locally
  let now = $state({ ...customer });
  const changed = $derived(JSON.stringify(now) !== JSON.stringify(customer));
  const fields = [
    { code: "name", label: "Name", most: 200 },
    { code: "phone", label: "Phone", most: 60 },
    { code: "email", label: "Mail address", most: 254 },
    { code: "note", label: "How to get in: dog, key, parking, ladder", most: 2000 },
  ] as const;
</script>

<form
  novalidate
  onsubmit={(e) => {
    e.preventDefault();
    void keep(now);
  }}
>
  <div class="grid gap-4 sm:grid-cols-2">
    {#each fields as f (f.code)}
      <TextField
        id="customer-{f.code}"
        label={f.label}
        most={f.most}
        value={now[f.code] ?? ""}
        {disabled}
        errors={errors[f.code]}
        onchange={(value) => (now = { ...now, [f.code]: value })}
      />
    {/each}
  </div>
  {#if changed}<button class="btn btn-primary mt-3 min-h-11">Keep it</button>{/if}
</form>
