let base = Date.now();
let mark = performance.now();
let speed = 1;

/** The server's clock as this page knows it: a visit goes by it, whatever the tablet's own says. */
export const clock = {
  /** Sets it by what the server told. */
  set(now: string, runs: number) {
    base = Date.parse(now);
    mark = performance.now();
    speed = runs;
  },
  /** Now, ms. */
  now: () => base + (performance.now() - mark) * speed,
};
