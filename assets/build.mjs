// Build into a folder (the argument): one style sheet, a script for each group of pages, the vendored scripts, fonts,
// icons.
import { execFileSync } from "node:child_process";
import { copyFileSync, mkdirSync, readFileSync, rmSync, writeFileSync } from "node:fs";
import { dirname, join, resolve } from "node:path";
import { fileURLToPath } from "node:url";
import { build } from "esbuild";

const here = dirname(fileURLToPath(import.meta.url));
const out = resolve(process.argv[2]);
const modules = (...parts) => join(here, "node_modules", ...parts);

for (const folder of ["css", "js", "fonts", "icons"]) {
  rmSync(join(out, folder), { recursive: true, force: true });
  mkdirSync(join(out, folder), { recursive: true });
}

const tailwind = [modules("@tailwindcss/cli/dist/index.mjs"), "-i", join(here, "css/app.css"), "-o", join(out, "css/app.css"), "--minify"];
execFileSync(process.execPath, tailwind, { stdio: ["ignore", "ignore", "inherit"], cwd: here });

// paper has a style sheet of its own, read by the program and never by a browser
copyFileSync(join(here, "css/print.css"), join(out, "css/print.css"));

// our own modules, bundled by group of pages; with --maps (for ./ladder dev) readable, and with maps to their sources
const maps = process.argv.includes("--maps");
await build({
  entryPoints: ["app", "card", "floor", "sw", "theme", "hearing/worklet"].map((name) => ({ in: join(here, "js", `${name}.js`), out: name === "hearing/worklet" ? "ear" : name })),
  outdir: join(out, "js"),
  bundle: true,
  format: "iife",
  target: "es2020",
  minify: !maps,
  sourcemap: maps ? "inline" : false,
  legalComments: "none",
  define: { "process.env.NODE_ENV": '"production"' },
});

const vendored = { "htmx.org/dist/htmx.min.js": "htmx.js", "@alpinejs/csp/dist/cdn.min.js": "alpine.js" };
for (const [from, to] of Object.entries(vendored)) {
  // a "sourceMappingURL" that names a map which is not shipped breaks hashed file names
  writeFileSync(join(out, "js", to), readFileSync(modules(from), "utf8").replace(/^\/\/# sourceMappingURL=.*$/gm, ""));
}

const fonts = { "atkinson-hyperlegible-next": ["latin", "latin-ext"], bitter: ["latin"] };
for (const [family, sets] of Object.entries(fonts)) {
  for (const set of sets) {
    const name = `${family}-${set}-wght-normal.woff2`;
    copyFileSync(modules("@fontsource-variable", family, "files", name), join(out, "fonts", name));
  }
}

const icons = ["search", "arrow-up-from-line", "sparkles", "equal", "trending-down", "trending-up", "arrow-down-to-line", "octagon-x", "check", "x", "undo-2", "eye", "clock", "flag", "moon", "log-out", "user-round",
  "circle-help", "chevron-right", "plus", "printer", "link", "rotate-ccw", "chevrons-up", "bed", "triangle-alert", "pencil", "chevron-left", "lock", "lock-open", "calendar-days", "ellipsis", "house"];
const symbol = (name) => {
  const svg = readFileSync(modules("lucide-static/icons", `${name}.svg`), "utf8");
  const inner = svg.replace(/^[\s\S]*?<svg[\s\S]*?>/, "").replace("</svg>", "").replace(/\s+/g, " ").trim();
  return `<symbol id="${name}" viewBox="0 0 24 24" fill="none" stroke="currentColor" stroke-width="2.25" stroke-linecap="round" stroke-linejoin="round">${inner}</symbol>`;
};
writeFileSync(join(out, "icons/sprite.svg"), `<svg xmlns="http://www.w3.org/2000/svg">\n${icons.map(symbol).join("\n")}\n</svg>\n`);

copyFileSync(join(here, "icon.svg"), join(out, "icons/icon.svg"));
// made from it by scripts/icons: phones ask for pictures
for (const name of ["icon-180", "icon-192", "icon-512", "icon-maskable-512"]) {
  copyFileSync(join(here, `icons/${name}.png`), join(out, `icons/${name}.png`));
}

const lock = JSON.parse(readFileSync(join(here, "package-lock.json"), "utf8"));
const named = Object.keys(lock.packages[""].devDependencies).sort();
const lines = named.map((name) => { const p = lock.packages[`node_modules/${name}`]; return `${name} ${p.version} ${p.license ?? ""}`; });
writeFileSync(join(out, "VENDORED.txt"), `${lines.join("\n")}\n`);
