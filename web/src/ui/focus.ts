// What can have the focus, and the ways to send it where the rule of the focus cannot know of.

const FIELDS =
  "input:not([type=hidden]):not([tabindex='-1']), textarea, select, [role=combobox], .cm-content";
const ANY = `${FIELDS}, button, a[href], [tabindex='0']`;

type Find = () => HTMLElement | null | undefined;

/** The first field inside, or else the first thing that can be reached. */
export function firstField(box: Element | null | undefined): HTMLElement | null {
  return box?.querySelector<HTMLElement>(FIELDS) ?? box?.querySelector<HTMLElement>(ANY) ?? null;
}

/** The first part of the sentence in it that is still to be said. */
export function firstUnsaid(box: Element | null): HTMLElement | null {
  const sentence = box?.matches("[data-sentence]") ? box : box?.querySelector("[data-sentence]");
  const parts = sentence?.querySelectorAll<HTMLElement>("[data-placeholder], [data-unsaid], input");
  return (
    [...(parts ?? [])].find((one) => !(one instanceof HTMLInputElement) || one.value === "") ?? null
  );
}

/** Whether nothing on the page has the focus. */
export function focusIsLost() {
  return !document.activeElement || document.activeElement === document.body;
}

/** Put the focus somewhere after the next drawing, where it stands there by then. */
export function focusSoon(find: Find) {
  requestAnimationFrame(() => requestAnimationFrame(() => find()?.focus()));
}

const FRAMES = 10; // in which a list that closes may still take the focus

/** The same after a choice in a list, whose own button takes the focus once the list has closed. */
export function focusAfterList(find: Find) {
  let left = FRAMES;
  function look() {
    const aim = find();
    const now = document.activeElement;
    const inList = now?.matches("[role=combobox]") || now?.closest("[role=listbox]");
    if (aim && now !== aim && (inList || focusIsLost())) aim.focus();
    left -= 1;
    if (left > 0) requestAnimationFrame(look);
  }
  requestAnimationFrame(look);
}

/** Bring something that is about to be drawn into sight. */
export function showSoon(find: Find) {
  requestAnimationFrame(() =>
    requestAnimationFrame(() => find()?.scrollIntoView({ block: "nearest" })),
  );
}
