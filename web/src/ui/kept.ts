// State that outlives leaving the screen, so that moving about loses nothing.
import { useCallback, useEffect, useState } from "react";

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
