// Keys that work wherever the cursor stands on the bench.
import { useEffect, useRef } from "react";

/** Each act by its key, with "ctrl+" or "alt+" before it where that is held. */
export function useBenchKeys(acts: Record<string, () => void>) {
  const latest = useRef(acts);
  latest.current = acts;
  useEffect(() => {
    function onKey(event: KeyboardEvent) {
      const held = `${event.ctrlKey || event.metaKey ? "ctrl+" : ""}${event.altKey ? "alt+" : ""}`;
      const act = latest.current[`${held}${event.key.toLowerCase()}`];
      const elsewhere =
        event.target instanceof Element &&
        event.target.closest("[role=dialog], [role=listbox], [role=menu]");
      if (!act || elsewhere) return;
      event.preventDefault();
      act();
    }
    window.addEventListener("keydown", onKey);
    return () => window.removeEventListener("keydown", onKey);
  }, []);
}
