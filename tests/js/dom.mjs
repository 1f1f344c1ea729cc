// As much of a browser as our modules ask for: a form with fields, a place to keep things, elements by id.

// tabs hear of each other in a browser; here a channel would keep the runner waiting
globalThis.BroadcastChannel = undefined;

export const field = (value = "", more = {}) => ({ value, ...more });

export const storage = () => {
  const kept = new Map();
  const at = {
    getItem: (key) => kept.get(key) ?? null,
    setItem: (key, value) => { kept.set(key, String(value)); at[key] = String(value); },
    removeItem: (key) => { kept.delete(key); delete at[key]; },
  };
  return at;
};

export const page = (documents = {}) => {
  globalThis.localStorage = storage();
  globalThis.document = {
    documentElement: { dataset: {} },
    addEventListener() {},
    getElementById: (id) => (id in documents ? { textContent: JSON.stringify(documents[id]) } : null),
    querySelectorAll: () => [],
    querySelector: () => null,
  };
  Object.defineProperty(globalThis, "navigator", { value: {}, configurable: true });
  globalThis.window = globalThis;
};

// a component as Alpine would start it
export const started = (make, magic) => {
  const component = make();
  for (const [name, value] of Object.entries(magic)) component[name] = value;
  component.init?.();
  return component;
};
