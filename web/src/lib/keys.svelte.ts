import { goto } from "$app/navigation";
import { settings } from "./settings.svelte";

/** Keys of the page that is open, beside those that work everywhere. */
export interface PageKey {
  key: string;
  does: string;
  run: () => void;
}

class Keys {
  page = $state<PageKey[]>([]);
  help = $state(false);
  private afterG = false;

  readonly everywhere = [
    { key: "?", does: "this list" },
    { key: "/", does: "search stoves" },
    { key: "g t", does: "Today" },
    { key: "g s", does: "Stoves" },
    { key: "g n", does: "Season" },
    { key: "u", does: "units" },
  ];

  press(event: KeyboardEvent) {
    if (event.key === "Escape") this.help = false;
    if (event.ctrlKey || event.metaKey || event.altKey || typing(event.target)) return;
    const key = event.key;
    if (this.afterG) {
      this.afterG = false;
      if (key === "t") void goto("/today");
      if (key === "s") void goto("/stoves");
      if (key === "n") void goto("/season");
      return;
    }
    const own = this.page.find((k) => k.key.split(" ").includes(key));
    if (own) own.run();
    else if (key === "g") this.afterG = true;
    else if (key === "?") this.help = !this.help;
    else if (key === "u") settings.toggleSystem();
    else if (key === "/") void goto("/stoves?search");
    else return;
    event.preventDefault();
  }
}

function typing(target: EventTarget | null): boolean {
  return (
    target instanceof HTMLElement && (target.isContentEditable || /^(INPUT|TEXTAREA|SELECT)$/.test(target.tagName))
  );
}

export const keys = new Keys();
