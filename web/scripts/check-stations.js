// Fails the build when the server lists a station that no part of the web shows.
import { existsSync, readdirSync, readFileSync } from "node:fs";

const document = JSON.parse(readFileSync("openapi/Grate.Server.json", "utf8"));
const listed = new Set(
  Object.keys(document.paths)
    .map((path) => /\/stations\/([^/]+)\/answer$/.exec(path)?.[1])
    .filter(Boolean),
);
const shown = new Set(
  readdirSync("src/lib")
    .map((part) => `src/lib/${part}/stations.ts`)
    .filter(existsSync)
    .flatMap((file) => [...readFileSync(file, "utf8").matchAll(/code: "([^"]+)"/g)].map((m) => m[1])),
);
const missing = [...listed].filter((code) => !shown.has(code));
if (missing.length > 0) {
  console.error(`No view for: ${missing.join(", ")}. Each part's stations.ts lists its own.`);
  process.exit(1);
}
