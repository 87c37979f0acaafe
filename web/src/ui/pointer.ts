// Nothing moves under a pointer that is down: what would is shown once it is up again.
import { useEffect, useRef, useState, useSyncExternalStore } from "react";

const listeners = new Set<() => void>();
let down = false;

function put(next: boolean) {
  if (next === down) return;
  down = next;
  for (const listener of listeners) listener();
}

let watching = false;

function watch() {
  if (watching) return;
  watching = true;
  window.addEventListener("pointerdown", () => put(true), true);
  // After the click that a release makes has been dealt with.
  for (const end of ["pointerup", "pointercancel", "dragend"])
    window.addEventListener(end, () => setTimeout(() => put(false)), true);
  window.addEventListener("blur", () => put(false));
}

function subscribe(listener: () => void) {
  watch();
  listeners.add(listener);
  return () => {
    listeners.delete(listener);
  };
}

/** The value, or while the pointer is down the one that stood there before. */
export function useSteady<T>(value: T): T {
  const held = useSyncExternalStore(subscribe, () => down);
  const shown = useRef(value);
  if (!held) shown.current = value;
  return shown.current;
}

/** The value as it was when it last stayed the same for `pause` milliseconds. */
export function useSettled<T>(value: T, pause: number): T {
  const [settled, setSettled] = useState(value);
  useEffect(() => {
    const timer = setTimeout(() => setSettled(value), pause);
    return () => clearTimeout(timer);
  }, [value, pause]);
  return settled;
}
