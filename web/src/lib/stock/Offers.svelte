<script lang="ts">
  import { api, ask, byField, headline, reply, type Reply, type Schema } from "../api/client";
  import NumberField from "../components/NumberField.svelte";
  import TextField from "../components/TextField.svelte";
  import { settings } from "../settings.svelte";
  import { session } from "../session.svelte";
  import { tables } from "../tables.svelte";
  import { ofThousandths, thousandths } from "../thousandths";
  import { uuid7 } from "../uuid";
  import KindField from "./KindField.svelte";
  import { amountLabel, amountOf, isCut, isSized } from "./kinds";

  interface Props {
    offers: Schema["StockOffer"][];
    mayChange: boolean;
    onchanged: (stock: Schema["StockAnswer"]) => void;
  }
  let { offers, mayChange, onchanged }: Props = $props();

  type Typed = Schema["OfferEntry"] & { id: string; kind: Schema["StockKind"] };
  const blank = (): Typed => ({ id: uuid7(), name: "", kind: "rope", supplier: "", supplierMail: "" });
  let typed = $state<Typed | null>(null);
  let errors = $state<Record<string, string[]>>({});
  let refused = $state("");
  let lines = $state<string[]>([]);

  function take(answer: Reply<Schema["StockAnswer"]>) {
    errors = byField(answer);
    refused = headline(answer);
    if (answer.kind !== "ok") return;
    typed = null;
    onchanged(answer.data);
  }
  async function keep(event: Event) {
    event.preventDefault();
    const { id, ...body } = $state.snapshot(typed!);
    take(
      await reply(
        api.PUT("/api/stock/offers/{id}", { params: { path: { id }, query: { units: settings.system } }, body }),
      ),
    );
  }
  async function bringIn(event: Event) {
    const field = event.currentTarget as HTMLInputElement;
    const file = field.files?.[0];
    if (!file) return;
    const answer = await reply(
      ask<Schema["StockAnswer"]>("POST", `/api/stock/catalogue.csv?units=${settings.system}`, file),
    );
    field.value = "";
    take(answer);
    lines = Object.entries(errors).flatMap(([line, said]) => said.map((s) => (line === "list" ? s : `${line}: ${s}`)));
    errors = {};
  }
  const drop = async (id: string) =>
    take(
      await reply(
        api.DELETE("/api/stock/offers/{id}", { params: { path: { id }, query: { units: settings.system } } }),
      ),
    );
</script>

<ul>
  {#each offers as offer (offer.id)}
    <li class="border-base-300 flex flex-wrap items-center gap-x-4 border-b py-1">
      <span class="grow">{offer.name}</span>
      <span class="text-quiet text-sm"
        >{tables.word("stockKind", offer.kind)}{offer.sizeMm ? ` ${tables.show(offer.sizeMm / 1000, "bore")}` : ""},
        {amountOf(offer.kind, offer.amount)}{offer.supplier ? `, ${offer.supplier}` : ""}{offer.leadDays
          ? `, comes in ${offer.leadDays} days`
          : ""}{offer.minimum ? `, kept: ${amountOf(offer.kind, offer.minimum)}` : ""}{offer.shelfMonths
          ? `, keeps ${offer.shelfMonths} months`
          : ""}</span
      >
      <span class="w-24 text-right">{session.money(offer.price)}</span>
      {#if mayChange}
        <button class="btn btn-sm min-h-11" onclick={() => (typed = { ...offer })}>Change</button>
        <button class="btn btn-sm min-h-11" onclick={() => drop(offer.id)}>Take off the list</button>
      {/if}
    </li>
  {:else}
    <li class="text-quiet py-2">Nothing is on the list yet: plans then use what lies in van and store alone.</li>
  {/each}
</ul>
{#if mayChange}
  <div class="my-2 flex flex-wrap items-center gap-3">
    <a class="btn btn-sm min-h-11" download href="/api/stock/catalogue.csv">The list as CSV</a>
    <label class="btn btn-sm min-h-11"
      >Bring a list in<input class="sr-only" type="file" accept=".csv,text/csv" onchange={bringIn} /></label
    >
  </div>
  {#if lines.length}
    <ul role="alert" class="text-error">
      {#each lines as line (line)}<li>{line}</li>{/each}
    </ul>
  {/if}
  {#if typed}
    <form
      class="border-primary my-3 flex flex-wrap items-end gap-3 border-l-4 pl-3"
      onsubmit={keep}
      aria-label="An offer"
    >
      <div class="min-w-48 grow">
        <TextField
          id="offer-name"
          label="Name"
          value={typed.name ?? ""}
          most={80}
          errors={errors["name"] ?? []}
          onchange={(name) => (typed!.name = name)}
        />
      </div>
      <KindField id="offer-kind" value={typed.kind} onchange={(kind) => (typed!.kind = kind)} />
      {#if isSized(typed.kind)}
        <NumberField
          id="offer-size"
          label="Size"
          quantity="bore"
          value={ofThousandths(typed.sizeMm)}
          compact
          errors={errors["sizeMm"] ?? []}
          onchange={(m) => (typed!.sizeMm = thousandths(m))}
        />
      {/if}
      <NumberField
        id="offer-amount"
        label={amountLabel(typed.kind)}
        quantity={isCut(typed.kind) ? "length" : "ratio"}
        value={typed.amount ?? null}
        compact
        errors={errors["amount"] ?? []}
        onchange={(amount) => (typed!.amount = amount)}
      />
      <NumberField
        id="offer-price"
        label="Price, {session.state?.currency}"
        quantity="ratio"
        value={typed.price ?? null}
        compact
        errors={errors["price"] ?? []}
        onchange={(price) => (typed!.price = price)}
      />
      <div class="min-w-40 grow">
        <TextField
          id="offer-supplier"
          label="Supplier"
          value={typed.supplier ?? ""}
          most={80}
          errors={errors["supplier"] ?? []}
          onchange={(supplier) => (typed!.supplier = supplier)}
        />
      </div>
      <div class="min-w-40 grow">
        <TextField
          id="offer-mail"
          label="Where orders go"
          value={typed.supplierMail ?? ""}
          most={200}
          errors={errors["supplierMail"] ?? []}
          onchange={(supplierMail) => (typed!.supplierMail = supplierMail)}
        />
      </div>
      <NumberField
        id="offer-lead"
        label="Days until it comes"
        quantity="count"
        value={typed.leadDays ?? null}
        compact
        errors={errors["leadDays"] ?? []}
        onchange={(days) => (typed!.leadDays = days === null ? null : Math.round(days))}
      />
      <NumberField
        id="offer-minimum"
        label="Kept at least"
        quantity={isCut(typed.kind) ? "length" : "ratio"}
        value={typed.minimum ?? null}
        compact
        errors={errors["minimum"] ?? []}
        onchange={(minimum) => (typed!.minimum = minimum)}
      />
      <NumberField
        id="offer-shelf"
        label="Months that it keeps"
        quantity="count"
        value={typed.shelfMonths ?? null}
        compact
        errors={errors["shelfMonths"] ?? []}
        onchange={(months) => (typed!.shelfMonths = months === null ? null : Math.round(months))}
      />
      <button class="btn btn-primary min-h-11">Keep it</button>
      <button type="button" class="btn btn-ghost min-h-11" onclick={() => (typed = null)}>Leave it</button>
    </form>
  {:else}
    <button class="btn mt-3 min-h-11" onclick={() => (typed = blank())}>Add an offer</button>
  {/if}
{/if}
{#if refused}<p role="alert" class="text-error text-sm">{refused}</p>{/if}
