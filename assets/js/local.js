// Small things that a device keeps for itself at once: a report that has not arrived, a number of its own.
export const local = {
  read(key) {
    try {
      const value = JSON.parse(localStorage.getItem(key));
      return value && typeof value === "object" ? value : null;
    } catch { return null; }
  },
  write(key, value) { try { localStorage.setItem(key, JSON.stringify(value)); } catch { /* private mode: nothing kept */ } },
  drop(key) { try { localStorage.removeItem(key); } catch { /* nothing was kept */ } },
};

export const newId = () => {
  if (crypto.randomUUID) return crypto.randomUUID();
  // not in a secure context: the same by hand (RFC 4122, version 4)
  const bytes = crypto.getRandomValues(new Uint8Array(16));
  bytes[6] = (bytes[6] & 0x0f) | 0x40;
  bytes[8] = (bytes[8] & 0x3f) | 0x80;
  const hex = [...bytes].map((byte) => byte.toString(16).padStart(2, "0")).join("");
  return hex.replace(/^(.{8})(.{4})(.{4})(.{4})/, "$1-$2-$3-$4-");
};

/** Which phone this is: a number that says nothing else, so that two phones with one card can be told apart. */
export const deviceId = () => {
  const kept = local.read("device");
  if (kept?.id) return kept.id;
  const id = newId();
  local.write("device", { id });
  return id;
};
