import { goto } from "$app/navigation";
import { settings } from "./settings.svelte";

/** Keys of the page that is open, beside those that work everywhere. */
export interface PageKey {
  key: string;
  /** As it is written on the key, where the browser calls it otherwise. */
  shown?: string;
  does: string;
  run: () => void;
}

class Keys {
  page = $state<PageKey[]>([]);
  help = $state(false);

  readonly everywhere: PageKey[] = [
    { key: "k", does: "this list", run: () => (this.help = !this.help) },
    { key: "t", does: "Today", run: () => void goto("/today") },
    { key: "h", does: "Households", run: () => void goto("/stoves") },
    { key: "w", does: "Week", run: () => void goto("/week") },
    { key: "s", does: "Season", run: () => void goto("/season") },
    { key: "b", does: "Stock", run: () => void goto("/stock") },
    { key: "i", does: "Firm", run: () => void goto("/firm") },
    { key: "c", does: "a call comes in", run: () => void goto("/call") },
    { key: "f", does: "find a household", run: () => void goto("/stoves?search") },
    { key: "u", does: "units", run: () => settings.toggleSystem() },
    { key: "o", does: "lamp on or off", run: () => settings.toggleTheme() },
  ];

  press(event: KeyboardEvent) {
    if (event.key === "Escape") this.help = false;
    if (!settings.keys || event.ctrlKey || event.metaKey || event.altKey || typing(event.target)) return;
    const own = [...this.page, ...this.everywhere].find((k) => k.key === event.key);
    if (!own) return;
    own.run();
    event.preventDefault();
  }
}

function typing(target: EventTarget | null): boolean {
  return (
    target instanceof HTMLElement && (target.isContentEditable || /^(INPUT|TEXTAREA|SELECT)$/.test(target.tagName))
  );
}

export const keys = new Keys();
