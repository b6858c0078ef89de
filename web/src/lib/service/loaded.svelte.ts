/** What is loaded for a day, ticked on this device: it is there again after a reload, and without a network. */
export function loadedOn(day: string) {
  const key = `grate.loaded.${day}`;
  let ticked = $state<string[]>(JSON.parse(localStorage.getItem(key) ?? "[]") as string[]);
  for (const old of Object.keys(localStorage)) {
    if (old.startsWith("grate.loaded.") && old < key) localStorage.removeItem(old);
  }
  return {
    has: (what: string) => ticked.includes(what),
    tick(what: string, on: boolean) {
      ticked = on ? [...ticked, what] : ticked.filter((t) => t !== what);
      localStorage.setItem(key, JSON.stringify(ticked));
    },
  };
}
