// The order of rules and fields while it is changed.

/** The keys with one moved a step up (-1) or down (1) among them. */
export function moved(keys: readonly string[], key: string, by: -1 | 1) {
  const from = keys.indexOf(key);
  const to = from + by;
  if (from < 0 || to < 0 || to >= keys.length) return [...keys];
  const next = keys.filter((one) => one !== key);
  next.splice(to, 0, key);
  return next;
}
