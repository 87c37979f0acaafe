// State that outlives leaving the screen, so that moving about loses nothing.
import { useCallback, useEffect, useLayoutEffect, useState } from "react";

function read<T>(key: string): T | null {
  const text = sessionStorage.getItem(key);
  return text === null ? null : (JSON.parse(text) as T);
}

/** Like useState, kept in this browser tab under `key` until `forget` is called. */
export function useKept<T>(key: string, initial: T) {
  const [value, setValue] = useState<T>(() => read<T>(key) ?? initial);
  const [dirty, setDirty] = useState(() => read<T>(key) !== null);
  useEffect(() => {
    if (dirty) sessionStorage.setItem(key, JSON.stringify(value));
  }, [key, value, dirty]);
  const change = useCallback((next: T | ((before: T) => T)) => {
    setDirty(true);
    setValue(next);
  }, []);
  const forget = useCallback(
    (next: T) => {
      sessionStorage.removeItem(key);
      setDirty(false);
      setValue(next);
    },
    [key],
  );
  return { value, change, forget, dirty };
}

/** Come back to where the page was scrolled to when its screen was left. */
export function useScrollKept(key: string) {
  useLayoutEffect(() => {
    const place = read<number>(key);
    // After the rows have taken their height.
    const frame = place ? requestAnimationFrame(() => window.scrollTo(0, place)) : 0;
    let last = place ?? 0;
    const note = () => {
      last = window.scrollY;
    };
    window.addEventListener("scroll", note, { passive: true });
    return () => {
      cancelAnimationFrame(frame);
      window.removeEventListener("scroll", note);
      sessionStorage.setItem(key, JSON.stringify(last));
    };
  }, [key]);
}
