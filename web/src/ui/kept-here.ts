// State that is kept in this browser, for somebody who has no account: gone when it is sent.
import { useEffect, useState } from "react";

const nameOf = (key: string) => `kept-here/${key}`;

/** A browser that keeps nothing, as some do inside other pages, forgets it on leaving. */
function attempt<T>(act: () => T): T | null {
  try {
    return act();
  } catch {
    return null;
  }
}

function read<T>(key: string): T | null {
  return attempt(() => JSON.parse(localStorage.getItem(nameOf(key)) ?? "null") as T | null);
}

export function useKeptHere<T>(key: string, initial: T, fitting: (kept: T) => T) {
  const [kept, setKept] = useState<T | null>(() => {
    const before = read<T>(key);
    return before === null ? null : fitting(before);
  });
  useEffect(() => {
    attempt(() =>
      kept === null
        ? localStorage.removeItem(nameOf(key))
        : localStorage.setItem(nameOf(key), JSON.stringify(kept)),
    );
  }, [key, kept]);
  return {
    value: kept ?? initial,
    dirty: kept !== null,
    change: (update: (before: T) => T) => setKept((before) => update(before ?? initial)),
    forget: () => setKept(null),
  };
}
