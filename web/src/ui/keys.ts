// Which keys belong to what is being typed, and which to the screen.
import { useEffect, useRef } from "react";

/** Whether keys pressed there are part of a text or of an open list. */
export function isTyping(target: EventTarget | null) {
  return (
    target instanceof Element &&
    target.closest(
      "input:not([type=checkbox]), textarea, select, .cm-editor, [role=listbox], [role=menu], [role=dialog]",
    ) !== null
  );
}

/** A key that does something on the screen, unless it is part of what is being typed. */
export function useKey(key: string, act: () => void, active: boolean) {
  const latest = useRef(act);
  latest.current = act;
  useEffect(() => {
    function onKey(event: KeyboardEvent) {
      if (event.key !== key || event.ctrlKey || event.metaKey || event.altKey) return;
      if (!active || isTyping(event.target)) return;
      event.preventDefault();
      latest.current();
    }
    window.addEventListener("keydown", onKey);
    return () => window.removeEventListener("keydown", onKey);
  }, [key, active]);
}
