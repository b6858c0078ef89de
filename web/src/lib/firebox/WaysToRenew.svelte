<script lang="ts">
  import { api, reply, refusals, type Schema } from "../api/client";
  import PriceFields from "../components/PriceFields.svelte";
  import { prices } from "../prices.svelte";
  import { session } from "../session.svelte";
  import { tables } from "../tables.svelte";
  import SawSheets from "./SawSheets.svelte";

  let { bricks, panels }: { bricks: Schema["LiningBrick"][]; panels: Schema["LiningPanel"][] } = $props();

  let layout = $state<Schema["BrickLayoutAnswer"] | null>(null);
  let ways = $state<Schema["LiningCompareAnswer"] | null>(null);
  let failed = $state<string[]>([]);
  let working = $state(false);
  let sheets = $state(false);

  const brick = $derived({ lengthMm: 229, widthMm: 114, thicknessMm: 32, price: prices.of("standard-brick") ?? 0 });
  // Bricks that stay are not bought again: each one to renew is a panel of its own.
  const wanted = $derived(
    bricks.map((b) => ({ name: `brick ${b.number}`, widthMm: round(b.widthMm), heightMm: round(b.heightMm) })),
  );
  const round = (mm: number) => Number(mm.toFixed(1));
  $effect(() => {
    void wanted;
    layout = null;
    ways = null;
  });

  async function compare() {
    const [set, bag] = [prices.of("cut-set"), prices.of("castable-bag")];
    working = true;
    const laid = await reply(
      api.POST("/api/calculations/brick-layout", { body: { panels: wanted, brick, jointMm: null, kerfMm: null } }),
    );
    failed = refusals(laid);
    if (laid.kind === "ok") {
      layout = laid.data;
      const thickness = (code: string) => panels.find((p) => p.bricks.some((b) => b.code === code))?.thicknessMm ?? 32;
      const body = {
        cutSet: set === null ? null : { pieces: bricks.length, pricePerSet: set, sets: null },
        standardBricks:
          prices.of("standard-brick") === null ? null : { brick, layout: laid.data as Schema["LaidEntry"] },
        castable:
          bag === null
            ? null
            : {
                panels: bricks.map((b) => ({
                  widthMm: b.widthMm,
                  heightMm: b.heightMm,
                  thicknessMm: thickness(b.code),
                })),
                bagPrice: bag,
              },
        labourPerHour: prices.of("hour"),
      };
      const compared = await reply(api.POST("/api/calculations/lining-compare", { body }));
      failed = refusals(compared);
      if (compared.kind === "ok") ways = compared.data;
    }
    working = false;
  }
  const rows = $derived(
    ways
      ? [
          { code: "cut-set", name: "Maker's cut set", way: ways.cutSet, what: `${ways.cutSet?.pieces} pieces` },
          {
            code: "standard-bricks",
            name: "Standard bricks",
            way: ways.standardBricks,
            what: `${ways.standardBricks?.bricks} bricks, ${ways.standardBricks?.cuts} cuts`,
          },
          {
            code: "castable",
            name: "Castable",
            way: ways.castable,
            what: `${ways.castable?.bags} ${ways.castable?.bags === 1 ? "bag" : "bags"}`,
          },
        ].filter((row) => row.way)
      : [],
  );
  const best = (code: string) =>
    [
      ways?.cheapest === code ? "cheapest" : "",
      ways?.quickest === code ? "quickest" : "",
      ways?.soonestFire === code ? "soonest fire" : "",
    ]
      .filter(Boolean)
      .join(", ");
  // What is cut from each bought brick.
  const sawn = $derived(
    layout
      ? Array.from({ length: layout.bricks }, (_, n) =>
          layout!.panels.flatMap((p) =>
            p.pieces.filter((piece) => piece.brick === n).map((piece) => ({ ...piece, panel: p.name })),
          ),
        )
      : [],
  );
</script>

<section aria-labelledby="ways" class="mt-5">
  <h4 id="ways" class="font-semibold">Three ways to renew {bricks.length === 1 ? "it" : `these ${bricks.length}`}</h4>
  <PriceFields things={["cut-set", "standard-brick", "castable-bag", "hour"]} />
  <button type="button" class="btn mt-2 min-h-11" disabled={working} onclick={compare}>Compare</button>
  {#if working}<span role="status" class="text-quiet ml-3"
      >Laying the bricks out, up to 8 s … <span class="loading loading-dots"></span></span
    >{/if}
  {#each failed as sentence, n (n)}<p role="alert" class="text-error text-sm">{sentence}</p>{/each}
  {#if ways}
    <div class="overflow-x-auto">
      <table class="table mt-2">
        <thead
          ><tr
            ><th>Way</th><th></th><th class="text-right">Money</th><th class="text-right">Minutes</th><th
              class="text-right">Days without fire</th
            ></tr
          ></thead
        >
        <tbody>
          {#each rows as row (row.code)}
            <tr>
              <td
                ><span class="font-semibold">{row.name}</span><span class="text-success block text-sm"
                  >{best(row.code)}</span
                ></td
              >
              <td>{row.what}</td>
              <td class="computed text-right">{session.money(row.way!.totalCost)}</td>
              <td class="computed text-right">{row.way!.minutes.toFixed(0)}</td>
              <td class="computed text-right">{row.way!.daysWithoutFire}</td>
            </tr>
          {/each}
        </tbody>
      </table>
    </div>
  {/if}
  {#if layout}
    <p class="mt-2">
      <span class="computed">{layout.bricks}</span> standard {layout.bricks === 1 ? "brick" : "bricks"}; no plan can do
      with fewer than
      <span class="computed">{layout.lowerBound}</span>. Waste
      <span class="computed">{tables.show(layout.wasteShare, "share")}</span>.
    </p>
    {#if layout.saw.length}
      <button type="button" class="btn mt-2 min-h-11" onclick={() => (sheets = true)}>Sheets for the saw</button>
    {/if}
    {#if sheets}
      <SawSheets saw={layout.saw} widthMm={brick.widthMm} lengthMm={brick.lengthMm} onclose={() => (sheets = false)} />
    {/if}
    <ol class="mt-2 grid grid-cols-3 gap-3 max-sm:grid-cols-1" aria-label="To take to the saw">
      {#each sawn as pieces, n (n)}
        <li class="border-base-content border p-2 text-sm">
          <span class="font-semibold">Brick {n + 1}</span>
          <ul>
            {#each pieces as piece (`${piece.panel}-${piece.xMm}-${piece.yMm}`)}
              <li>
                <span class="measured"
                  >{tables.number(piece.widthMm / 1000, "bore")} × {tables.show(piece.heightMm / 1000, "bore")}</span
                >
                for {piece.panel}{piece.cut ? "" : ", whole"}
              </li>
            {/each}
          </ul>
        </li>
      {/each}
    </ol>
  {/if}
</section>
