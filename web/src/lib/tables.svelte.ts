import { api, reply, type Schema } from "./api/client";
import { settings } from "./settings.svelte";

export type Quantity = Schema["Quantity"];
export type Unit = Schema["Unit"];

/** A number as the core writes it: of two as near, the even one, where a browser takes the greater. */
export function fixed(value: number, decimals: number): string {
  const scaled = value * 10 ** decimals;
  const tie = Math.abs(scaled % 1) === 0.5 && Number.isInteger(value * 2 ** (decimals + 1));
  if (!tie) return value.toFixed(decimals);
  const low = Math.floor(scaled);
  return ((low % 2 === 0 ? low : low + 1) / 10 ** decimals).toFixed(decimals);
}

/** The server's tables: units, steps, words. Loaded once after sign-in. */
class Tables {
  all = $state<Schema["TablesAnswer"] | null>(null);

  async load() {
    if (this.all) return;
    const answer = await reply(api.GET("/api/tables"));
    if (answer.kind === "ok") this.all = answer.data;
  }

  unit(quantity: Quantity): Unit {
    const row = this.all?.units.find((u) => u.quantity === quantity);
    if (!row) throw new Error(`no unit for ${quantity}`);
    return settings.system === "us" ? row.us : row.metric;
  }

  kindName(code: string, combustor: boolean): string {
    const name = this.all?.kinds.find((k) => k.code === code)?.name ?? code;
    return combustor ? `${name} with combustor` : name;
  }

  /** Words a user picks, with their names. */
  words<K extends keyof Schema["WordTables"]>(of: K): Schema["Named"][] {
    return this.all?.words[of] ?? [];
  }

  /** The name of a word. */
  word(of: keyof Schema["WordTables"], code: string | null | undefined): string {
    return this.words(of).find((w) => w.code === code)?.name ?? code ?? "";
  }

  /** A default that stood in, by name and in the shown unit. */
  assumed(item: Schema["Assumed"]): string {
    const field = this.all?.fields[item.field.slice(item.field.lastIndexOf(".") + 1)];
    const segment = /segments\[(\d+)\]/.exec(item.field)?.[1];
    const name = `${field?.name ?? item.field}${segment ? `, piece ${Number(segment) + 1}` : ""}`;
    const value = item.value;
    if (typeof value === "number" && field) return `${name} ${this.show(value * field.si, field.quantity)}`;
    if (Array.isArray(value)) return name;
    return `${name}: ${value === true ? "yes" : value === false ? "no" : String(value).replaceAll("-", " ")}`;
  }

  constructionName(code: string | null | undefined): string {
    return this.all?.constructions.find((c) => c.code === code)?.name ?? code ?? "";
  }

  partName(code: string): string {
    return this.all?.marks.find((m) => m.code === code)?.name ?? code.replaceAll("-", " ");
  }

  /** The word on a part: what does not wear is put right, not renewed. */
  conditionOf(part: string, condition: string): string {
    const wears = this.all?.marks.find((m) => m.code === part)?.wears ?? true;
    return condition === "spent" && !wears ? "To be put right" : this.word("condition", condition);
  }

  /** The number alone in the shown unit, with a true minus sign. */
  number(si: number, quantity: Quantity): string {
    const unit = this.unit(quantity);
    const text = fixed(si * unit.factor + unit.offset, unit.decimals);
    return Number(text) === 0 ? text.replace("-", "") : text.replace("-", "−");
  }

  /** The shown number of an SI value, for scales. */
  shown(si: number, quantity: Quantity): number {
    const unit = this.unit(quantity);
    return si * unit.factor + unit.offset;
  }

  /** Number and unit. */
  show(si: number, quantity: Quantity): string {
    const symbol = this.unit(quantity).symbol;
    return symbol ? `${this.number(si, quantity)} ${symbol}` : this.number(si, quantity);
  }

  /** Two numbers and the unit. */
  range(low: number, high: number, quantity: Quantity): string {
    return `${this.number(low, quantity)}${low < 0 ? " to " : "–"}${this.show(high, quantity)}`;
  }
}

export const tables = new Tables();
