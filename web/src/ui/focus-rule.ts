// Where the focus goes, by one rule for the whole product, read from the page itself:
//
// - What opens takes it. data-focus="first": its first field; "unsaid": the first part of its sentence
//   that is still to be said; "self": the part itself; "page": the same, unless something in it has it.
// - What closes gives it back to what opened it: that very button, or the one of its name
//   (data-opens), as the part itself can say (data-opened-by, several names in the order of choice).
// - What moves keeps it, by its id where it is drawn anew.
// - What goes leaves it to what stood around that, and at last to the page: it is never lost.
import { firstField, firstUnsaid, focusIsLost } from "./focus";

/** Parts of a page that are one thing, so that the focus stays inside while they stand. */
const WHOLES = "tr, li, fieldset, form, section, [role=dialog]";
const REGION = "[data-focus]";
/** Drawings in which whoever took the focus away can say where it goes. */
const FRAMES = 3;
/** Further drawings in which what opened something that has closed may come back. */
const AWAITED = 30;

type Opener = { element: HTMLElement | null; names: string[] };

const elementsOf = (nodes: NodeList) =>
  [...nodes].filter((node): node is Element => node instanceof Element);

const regionsIn = (root: Element) => [
  ...(root.matches(REGION) ? [root] : []),
  ...root.querySelectorAll(REGION),
];

const named = (name: string) =>
  name ? document.querySelector<HTMLElement>(`[data-opens="${CSS.escape(name)}"]`) : null;

function take(region: HTMLElement) {
  const way = region.dataset.focus;
  const now = document.activeElement;
  if (way === "page" && now?.closest("main, [role=dialog]")) return;
  const isPart = way === "first" || way === "unsaid";
  const unsaid = way === "unsaid" ? firstUnsaid(region) : null;
  (unsaid ?? (isPart ? firstField(region) : null) ?? region).focus({ preventScroll: true });
  if (way !== "page") region.scrollIntoView({ block: "nearest" });
}

/** Follow the rule until what it returns is called. */
export function followFocusRule() {
  /** What had the focus last, and what stood around it, from the inside out. */
  let around: HTMLElement[] = [];
  /** What had it before that. */
  let before: HTMLElement | null = null;
  let closed: Opener[] = [];
  let frame = 0;
  const openers = new WeakMap<Element, Opener>();

  function note({ target }: FocusEvent) {
    before = around[0] ?? null;
    around = [];
    let one = target instanceof HTMLElement ? target : null;
    for (; one; one = one.parentElement) around.push(one);
  }
  function openerOf(region: HTMLElement): Opener {
    const [last = null] = around;
    // What opened it may have gone with it; whoever had nothing in hand comes back to nothing.
    const element = last && region.contains(last) ? before : last;
    const inHand = element && (!focusIsLost() || !element.isConnected) ? element : null;
    const names = region.dataset.openedBy?.split(" ") ?? [inHand?.dataset.opens ?? ""];
    return { element: inHand, names: names.filter(Boolean) };
  }
  function open(region: Element) {
    if (!(region instanceof HTMLElement) || openers.has(region)) return;
    openers.set(region, openerOf(region));
    take(region);
  }
  function backTo({ element, names }: Opener) {
    const byName = names.map(named).find(Boolean);
    return byName ?? (element?.isConnected ? element : null);
  }
  function restore(frames: number) {
    const [last] = around;
    const back = closed.map(backTo).find(Boolean);
    // What opened it may be drawn again a little later than it has closed.
    const isAwaited = !back && closed.some(({ names }) => names.length > 0);
    if (isAwaited && focusIsLost() && frames > 0) return restoreAfter(1, frames - 1);
    closed = [];
    if (!focusIsLost() || !last || last === document.body) return;
    if (back) return back.focus();
    if (last.isConnected) return;
    const same = last.id ? document.getElementById(last.id) : named(last.dataset.opens ?? "");
    const left = around.find((one) => one.isConnected && one.matches(`${WHOLES}, main`));
    const inside = left && !left.matches("main") ? firstField(left) : null;
    const aim = same ?? inside ?? document.getElementById("main");
    aim?.focus({ preventScroll: true });
  }
  // After whoever took it away has had the time to say where the focus goes.
  function restoreAfter(frames: number, further = AWAITED) {
    cancelAnimationFrame(frame);
    frame = requestAnimationFrame(() =>
      frames > 1 ? restoreAfter(frames - 1, further) : restore(further),
    );
  }
  const watcher = new MutationObserver((changes) => {
    const [last] = around;
    for (const { removedNodes, addedNodes } of changes) {
      for (const gone of elementsOf(removedNodes).flatMap(regionsIn)) {
        const opener = gone.isConnected ? undefined : openers.get(gone);
        if (opener) closed.push(opener);
      }
      const come = elementsOf(addedNodes);
      const moved = last?.isConnected && focusIsLost() && come.some((one) => one.contains(last));
      if (moved) last.focus({ preventScroll: true });
      for (const region of come.flatMap(regionsIn)) if (region.isConnected) open(region);
    }
    restoreAfter(FRAMES);
  });
  document.addEventListener("focusin", note);
  watcher.observe(document.body, { childList: true, subtree: true });
  for (const region of regionsIn(document.body)) open(region);
  return () => {
    document.removeEventListener("focusin", note);
    watcher.disconnect();
    cancelAnimationFrame(frame);
  };
}
