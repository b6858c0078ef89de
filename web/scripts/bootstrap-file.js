// The strict content policy allows no inline script: the one that SvelteKit writes into index.html
// moves to a file of its own, named after its content.
import { createHash } from "node:crypto";
import { readFileSync, writeFileSync } from "node:fs";

const page = "build/index.html";
const html = readFileSync(page, "utf8");
const inline = /<script>([\s\S]*?)<\/script>/;
const script = inline.exec(html)?.[1];
if (!script) throw new Error("index.html has no bootstrap script");
const name = `_app/immutable/bootstrap-${createHash("sha256").update(script).digest("hex").slice(0, 12)}.js`;
writeFileSync(`build/${name}`, script);
writeFileSync(page, html.replace(inline, `<script src="/${name}"></script>`));
