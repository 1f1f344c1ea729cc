// What is wrong with how the page is laid out, as a list of short sentences: sideways scrolling,
// text that is cut, targets that lie over each other or are too small for a finger, words that a
// program left behind.
const wrong = [];
const root = document.documentElement;
const name = (e) => {
  const words = (e.getAttribute("aria-label") || e.innerText || e.value || e.name || "").trim();
  const kind = e.className && typeof e.className === "string" ? "." + e.className.split(" ")[0] : "";
  return `${e.tagName.toLowerCase()}${kind} "${words.replace(/\s+/g, " ").slice(0, 40)}"`;
};
const shown = (e) => {
  if (!e.checkVisibility({ checkOpacity: true, checkVisibilityCSS: true })) return false;
  const box = e.getBoundingClientRect();
  return box.width > 1 && box.height > 1;
};
const styles = new Map();
const styleOf = (e) => styles.get(e) ?? styles.set(e, getComputedStyle(e)).get(e);
// whether something holds of an element or of what it stands in; each is asked once
const upwards = (holds) => {
  const known = new Map();
  const ask = (e) => {
    if (!e) return false;
    if (!known.has(e)) known.set(e, holds(styleOf(e)) || ask(e.parentElement));
    return known.get(e);
  };
  return ask;
};
const hiddenOnPurpose = upwards((style) => style.clipPath !== "none" || style.clip !== "auto");
const fixed = upwards((style) => ["fixed", "sticky"].includes(style.position));
const scrolls = (e) => {
  for (let at = e.parentElement; at && at !== document.body; at = at.parentElement) {
    if (["auto", "scroll"].includes(styleOf(at).overflowX)) return true;
  }
  return false;
};

// --- sideways
const wide = root.scrollWidth - root.clientWidth;
if (wide > 1) {
  const out = [...document.querySelectorAll("body *")].filter(
    (e) => shown(e) && e.getBoundingClientRect().right > root.clientWidth + 1 && !scrolls(e),
  );
  wrong.push(`sideways by ${wide}: ${out.slice(-2).map(name).join(", ")}`);
}

// --- cut text
const texts = new Set();
const walker = document.createTreeWalker(document.body, NodeFilter.SHOW_TEXT);
while (walker.nextNode()) {
  const text = walker.currentNode;
  if (text.data.trim() && text.parentElement) texts.add(text);
}
for (const text of texts) {
  const parent = text.parentElement;
  if (["SCRIPT", "STYLE", "TEMPLATE", "NOSCRIPT", "OPTION"].includes(parent.tagName)) continue;
  if (!shown(parent) || parent.closest("svg") || hiddenOnPurpose(parent)) continue;
  const range = document.createRange();
  range.selectNodeContents(text);
  const box = range.getBoundingClientRect();
  if (!box.width) continue;
  const lines = Math.round(box.height / (1.25 * parseFloat(styleOf(parent).fontSize)));
  if (lines >= 5 && text.data.trim().length / lines < 3) wrong.push(`squeezed: ${name(parent)}`);
  for (let at = parent; at && at !== document.body; at = at.parentElement) {
    const style = styleOf(at);
    if (style.display === "inline" || style.display === "contents") continue;
    const hides = (way) => ["hidden", "clip"].includes(way);
    const rim = at.getBoundingClientRect();
    const x = hides(style.overflowX) && (box.right > rim.right + 1.5 || box.left < rim.left - 1.5);
    const y = hides(style.overflowY) && (box.bottom > rim.bottom + 3 || box.top < rim.top - 3);
    if (x || y) {
      // data-whole: what is cut there stands whole where a touch leads
      if (!at.title && !parent.closest("[data-whole]")) wrong.push(`cut: ${name(parent)}`);
      break;
    }
    if (["auto", "scroll"].includes(style.overflowX) || style.position === "fixed") break;
  }
}

// --- targets
const asked = "a[href], button, input:not([type=hidden]), select, textarea, summary";
const targets = [...document.querySelectorAll(asked)].filter(
  (e) => shown(e) && !hiddenOnPurpose(e) && !e.closest("svg") && !fixed(e),
);
const boxes = targets.map((e) => e.getBoundingClientRect());
for (let i = 0; i < targets.length; i += 1) {
  const style = styleOf(targets[i]);
  const inText = style.display === "inline";
  const small = Math.min(boxes[i].width, boxes[i].height);
  const label = targets[i].labels && targets[i].labels.length;
  if (small < 24 && !inText && !label) {
    wrong.push(`small ${small.toFixed(0)}: ${name(targets[i])}`);
  }
  for (let j = i + 1; j < targets.length && !inText; j += 1) {
    if (boxes[j].top >= boxes[i].bottom || boxes[j].left >= boxes[i].right) continue;
    if (targets[i].contains(targets[j]) || targets[j].contains(targets[i])) continue;
    const a = boxes[i];
    const b = boxes[j];
    const x = Math.min(a.right, b.right) - Math.max(a.left, b.left);
    const y = Math.min(a.bottom, b.bottom) - Math.max(a.top, b.top);
    if (x > 2 && y > 2) {
      wrong.push(`over each other: ${name(targets[i])} and ${name(targets[j])}`);
    }
  }
}

// --- words
const said = [...document.querySelectorAll("main, .card-page, .hall-frame")].map((e) => e.innerText).join("\n");
for (const left of [/\b1 (times|days|sessions|players|weeks|rungs|sets|minutes|hours)\b/, /\bNone\b(?! (is|of))/,
  /\bundefined\b/, /\bNaN\b/, /\{[{%]/, / , /, / \. /, /\(\s*\)/, /[^.]\.\.(?![./])/]) {
  const found = said.match(left);
  if (found) {
    const at = Math.max(0, found.index - 25);
    wrong.push(`words: "${said.slice(at, found.index + 25).replace(/\s+/g, " ")}"`);
  }
}
return [...new Set(wrong)];
