/** What this browser's user chose; kept in this browser. */
export type System = "metric" | "us";
export type Theme = "enamel" | "cellar";

class Settings {
  system = $state<System>(localStorage.getItem("grate.units") === "us" ? "us" : "metric");
  theme = $state<Theme>(
    (localStorage.getItem("grate.theme") as Theme | null) ??
      (matchMedia("(prefers-color-scheme: dark)").matches ? "cellar" : "enamel"),
  );

  keys = $state(localStorage.getItem("grate.keys") !== "off");

  /** The firm's units, where this browser's user chose none. */
  begin(system: System) {
    if (!localStorage.getItem("grate.units")) this.system = system;
  }

  toggleKeys() {
    this.keys = !this.keys;
    localStorage.setItem("grate.keys", this.keys ? "on" : "off");
  }

  toggleSystem() {
    this.system = this.system === "us" ? "metric" : "us";
    localStorage.setItem("grate.units", this.system);
  }

  toggleTheme() {
    this.theme = this.theme === "cellar" ? "enamel" : "cellar";
    localStorage.setItem("grate.theme", this.theme);
    this.apply();
  }

  apply() {
    document.documentElement.dataset.theme = this.theme;
  }
}

export const settings = new Settings();
