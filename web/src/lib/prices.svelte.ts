import { api, refusals, reply, type Schema } from "./api/client";
import { session } from "./session.svelte";

export type Thing = Schema["PricedThing"];

/** The firm's prices: set at the desk, for everybody. Whoever is not of the desk may try another one on the spot. */
class Prices {
  all = $state<Schema["FirmPrice"][]>([]);
  tried = $state<Partial<Record<Thing, number | null>>>({});
  refused = $state<string[]>([]);
  private timers: Partial<Record<Thing, ReturnType<typeof setTimeout>>> = {};

  async load() {
    const answer = await reply(api.GET("/api/prices"));
    if (answer.kind === "ok") this.all = answer.data;
  }

  of(thing: Thing): number | null {
    return thing in this.tried ? this.tried[thing]! : (this.all.find((p) => p.thing === thing)?.price ?? null);
  }

  name(thing: Thing): string {
    return this.all.find((p) => p.thing === thing)?.name ?? thing;
  }

  get desk() {
    return session.person?.role === "office" || session.person?.role === "owner";
  }

  set(thing: Thing, price: number | null) {
    this.tried[thing] = price;
    if (!this.desk) return;
    clearTimeout(this.timers[thing]);
    this.timers[thing] = setTimeout(() => void this.keep(thing, price), 700);
  }

  private async keep(thing: Thing, price: number | null) {
    const answer = await reply(api.PUT("/api/prices/{thing}", { params: { path: { thing } }, body: { price } }));
    this.refused = refusals(answer);
    if (answer.kind === "ok") this.all = answer.data;
  }
}

export const prices = new Prices();
