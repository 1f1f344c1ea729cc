// Who was signed out while a form was open signs in, comes back to the page, and sends what was typed with one tap.
// It is kept in this tab only, and only until the next page that is not the sign-in.
const KEY = "typed-before-sign-in";

const read = () => {
  try { return JSON.parse(sessionStorage.getItem(KEY)); } catch { return null; }
};
const drop = () => { try { sessionStorage.removeItem(KEY); } catch { /* nothing was kept */ } };
const write = (kept) => { try { sessionStorage.setItem(KEY, JSON.stringify(kept)); } catch { /* private mode */ } };
const here = () => location.pathname + location.search;

/** @param {SubmitEvent} event */
const keep = (event) => {
  const form = /** @type {HTMLFormElement} */ (event.target);
  if (event.defaultPrevented || !form.matches("form[method=post][data-guard]")) return;
  const fields = [...new FormData(form, event.submitter)].filter(([name, value]) => typeof value === "string" && name !== "csrfmiddlewaretoken");
  write({ page: here(), action: form.action, fields, signing: false });
};

const offer = (kept) => {
  const box = /** @type {HTMLTemplateElement} */ (document.getElementById("come-back"));
  const token = /** @type {HTMLInputElement} */ (document.querySelector("[name=csrfmiddlewaretoken]"));
  const main = document.querySelector("main");
  if (!box || !token || !main) return;
  const shown = /** @type {DocumentFragment} */ (box.content.cloneNode(true));
  const form = /** @type {HTMLFormElement} */ (shown.querySelector("form"));
  form.action = kept.action;
  for (const [name, value] of [...kept.fields, ["csrfmiddlewaretoken", token.value]]) {
    const field = document.createElement("input");
    Object.assign(field, { type: "hidden", name, value });
    form.append(field);
  }
  main.prepend(shown);
};

export const comeBack = () => {
  const kept = read();
  const goOn = /** @type {HTMLInputElement} */ (document.querySelector(".sign-in [name=next]"));
  if (document.querySelector(".sign-in")) {
    if (!kept) return;
    write({ ...kept, signing: true });
    if (goOn) goOn.value = kept.page; // and not where the form was sent, which nobody can open
    return;
  }
  drop();
  if (kept && kept.signing && kept.page === here()) offer(kept);
  document.addEventListener("submit", keep);
};
