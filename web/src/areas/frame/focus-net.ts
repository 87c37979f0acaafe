// The focus is never lost to the page: where what had it goes, it goes to what stood around that.
import { useEffect } from "react";
import { firstField, focusIsLost } from "../../ui/focus";

/** Parts of a page that are one thing, so that the focus stays inside while they stand. */
const WHOLES = "tr, li, fieldset, form, section, [role=dialog]";

export function useFocusNet() {
  useEffect(() => {
    /** What had the focus last, and what stood around it, from the inside out. */
    let around: Element[] = [];
    let frame = 0;
    function note(event: FocusEvent) {
      around = [];
      let one = event.target instanceof Element ? event.target : null;
      for (; one; one = one.parentElement) around.push(one);
    }
    function restore() {
      const [last] = around;
      if (!focusIsLost() || !last || last === document.body || last.isConnected) return;
      const left = around.find((one) => one.isConnected && one.matches(`${WHOLES}, main`));
      const aim = left && !left.matches("main") ? firstField(left) : null;
      (aim ?? document.getElementById("main"))?.focus({ preventScroll: true });
    }
    // After whoever took it away has had the time to say where the focus goes.
    function restoreAfter(frames: number) {
      frame = requestAnimationFrame(() => (frames > 1 ? restoreAfter(frames - 1) : restore()));
    }
    const watcher = new MutationObserver(() => {
      cancelAnimationFrame(frame);
      restoreAfter(3);
    });
    document.addEventListener("focusin", note);
    watcher.observe(document.body, { childList: true, subtree: true });
    return () => {
      document.removeEventListener("focusin", note);
      watcher.disconnect();
      cancelAnimationFrame(frame);
    };
  }, []);
}
