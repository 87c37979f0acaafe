// Where the focus goes: back to what opened something, or on to what came of it.
import { useEffect, useLayoutEffect, useRef } from "react";

const FIELDS =
  "input:not([type=hidden]):not([tabindex='-1']), textarea, select, [role=combobox], .cm-content";
const ANY = `${FIELDS}, button, a[href], [tabindex='0']`;

/** The first field inside, or else the first thing that can be reached. */
export function firstField(box: Element | null | undefined): HTMLElement | null {
  return box?.querySelector<HTMLElement>(FIELDS) ?? box?.querySelector<HTMLElement>(ANY) ?? null;
}

/** The first part of a sentence that is still to be said. */
export function firstUnsaid(sentence: Element | null): HTMLElement | null {
  const parts = sentence?.querySelectorAll<HTMLElement>("[data-placeholder], [data-unsaid], input");
  return (
    [...(parts ?? [])].find((one) => !(one instanceof HTMLInputElement) || one.value === "") ?? null
  );
}

/** Where this opens, the focus goes to the first field in it. */
export function useFocusedFirst<T extends HTMLElement>(wanted = true) {
  const box = useRef<T>(null);
  const first = useRef(wanted);
  useEffect(() => {
    if (first.current) firstField(box.current)?.focus();
  }, []);
  return box;
}

/** Whether nothing on the page has the focus. */
export function focusIsLost() {
  return !document.activeElement || document.activeElement === document.body;
}

/** Put the focus somewhere after the next drawing, where it stands there by then. */
export function focusSoon(find: () => HTMLElement | null | undefined, onlyIfLost = false) {
  requestAnimationFrame(() =>
    requestAnimationFrame(() => {
      if (!onlyIfLost || focusIsLost()) find()?.focus();
    }),
  );
}

const FRAMES = 10; // in which a list that closes may still take the focus

/** The same after a choice in a list, whose own button takes the focus once the list has closed. */
export function focusAfterList(find: () => HTMLElement | null | undefined) {
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
export function showSoon(find: () => Element | null | undefined) {
  requestAnimationFrame(() =>
    requestAnimationFrame(() => find()?.scrollIntoView({ block: "nearest" })),
  );
}

/** When this goes and the focus with it, the focus returns to what had it before. */
export function useFocusReturned() {
  const opener = useRef<Element | null>(null);
  useLayoutEffect(() => {
    opener.current = document.activeElement;
  }, []);
  // With the drawing that takes it away, so that it comes before the net under the whole page.
  useLayoutEffect(
    () => () => {
      const back = opener.current;
      if (back instanceof HTMLElement) focusSoon(() => (back.isConnected ? back : null), true);
    },
    [],
  );
}
