// Going to a field of the form that is on the screen.

/** The control of a field, to be gone to. */
export function controlOf(key: string, within: ParentNode = document) {
  const row = within.querySelector(`[data-field="${CSS.escape(key)}"]`);
  return row?.querySelector<HTMLElement>("input, select, textarea, button") ?? null;
}

export function goToField(key: string, within: ParentNode = document) {
  const control = controlOf(key, within);
  control?.scrollIntoView({ block: "center" });
  control?.focus({ preventScroll: true });
}
