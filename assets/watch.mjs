// Builds styles and scripts again, with source maps and beside the committed ones (.data/dev-static), whenever a source or
// a template changes. For ./ladder dev.
import { spawnSync } from "node:child_process";
import { watch } from "node:fs";
import { dirname, join } from "node:path";
import { fileURLToPath } from "node:url";

const here = dirname(fileURLToPath(import.meta.url));
const root = dirname(here);
const WAIT = 150; // ms: an editor writes a file in several steps
let timer = null;

const build = () => {
  const words = [join(here, "build.mjs"), join(root, ".data/dev-static"), "--maps"];
  const done = spawnSync(process.execPath, words, { cwd: here, stdio: ["ignore", "ignore", "inherit"] });
  console.log(done.status === 0 ? "styles and scripts built" : "the build failed, see above");
};
const soon = (name) => {
  if (!/\.(css|js|mjs|html)$/.test(name ?? "") || /node_modules|static/.test(name)) return;
  clearTimeout(timer);
  timer = setTimeout(build, WAIT);
};

build();
for (const folder of [join(here, "css"), join(here, "js"), join(root, "drill_ladder")]) {
  watch(folder, { recursive: true }, (_, name) => soon(name));
}
console.log("watching assets/ and the templates");
