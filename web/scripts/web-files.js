// What the build leaves is made ready to be served.
import { createHash } from "node:crypto";
import { readdirSync, readFileSync, writeFileSync } from "node:fs";
import { brotliCompressSync, gzipSync } from "node:zlib";

// The strict content policy allows no inline script: the one that SvelteKit writes into index.html
// moves to a file of its own, named after its content.
const page = "build/index.html";
const html = readFileSync(page, "utf8");
const inline = /<script>([\s\S]*?)<\/script>/;
const script = inline.exec(html)?.[1];
if (!script) throw new Error("index.html has no bootstrap script");
const name = `_app/immutable/bootstrap-${createHash("sha256").update(script).digest("hex").slice(0, 12)}.js`;
writeFileSync(`build/${name}`, script);
writeFileSync(page, html.replace(inline, `<script src="/${name}"></script>`));

// Compressed once here instead of at every request.
for (const entry of readdirSync("build", { recursive: true, withFileTypes: true })) {
  if (!entry.isFile() || !/\.(js|css|svg|json|html)$/.test(entry.name)) continue;
  const file = `${entry.parentPath}/${entry.name}`;
  const bytes = readFileSync(file);
  writeFileSync(`${file}.br`, brotliCompressSync(bytes));
  writeFileSync(`${file}.gz`, gzipSync(bytes, { level: 9 }));
}
