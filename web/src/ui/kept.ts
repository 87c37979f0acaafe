// State that outlives leaving the screen, so that moving about loses nothing. It is kept in this
// browser tab for the person who is signed in, and gone when that person signs out.
import { useCallback, useEffect, useLayoutEffect, useRef, useState } from "react";
import { ownerName } from "./owner";

const PREFIX = "kept";

/** Under which name something is kept for the person who is signed in now. */
const nameOf = (key: string) => `${PREFIX}/${ownerName()}/${key}`;

function read<T>(key: string): T | null {
  const text = sessionStorage.getItem(nameOf(key));
  return text === null ? null : (JSON.parse(text) as T);
}

/** What is kept for a person, each by the first part of its name. */
export function unsavedOf(name: string): string[] {
  const begin = `${PREFIX}/${name}/`;
  return Object.keys(sessionStorage)
    .filter((key) => key.startsWith(begin))
    .map((key) => key.slice(begin.length).split(":")[0] ?? "");
}

/** Forget all that is kept for a person. */
export function forgetAllOf(name: string) {
  const begin = `${PREFIX}/${name}/`;
  for (const key of Object.keys(sessionStorage))
    if (key.startsWith(begin)) sessionStorage.removeItem(key);
}

/** Keep something for a screen that is opened next, and reads it by `useKept`. */
export function keep<T>(key: string, value: T) {
  sessionStorage.setItem(nameOf(key), JSON.stringify(value));
}

/**
 * Like useState, kept in this browser tab under `key` until `forget` is called. After `close`
 * nothing is kept here any more: what was still being read when it was closed comes too late.
 */
export function useKept<T>(key: string, initial: T) {
  const closed = useRef(false);
  const [value, setValue] = useState<T>(() => read<T>(key) ?? initial);
  const [dirty, setDirty] = useState(() => read<T>(key) !== null);
  useEffect(() => {
    if (dirty) sessionStorage.setItem(nameOf(key), JSON.stringify(value));
  }, [key, value, dirty]);
  const change = useCallback((next: T | ((before: T) => T)) => {
    if (closed.current) return;
    setDirty(true);
    setValue(next);
  }, []);
  const forget = useCallback(
    (next: T) => {
      sessionStorage.removeItem(nameOf(key));
      setDirty(false);
      setValue(next);
    },
    [key],
  );
  const close = useCallback(
    (next: T) => {
      closed.current = true;
      forget(next);
    },
    [forget],
  );
  return { value, change, forget, close, dirty };
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
      // Whoever signs out leaves nothing behind.
      if (ownerName()) sessionStorage.setItem(nameOf(key), JSON.stringify(last));
    };
  }, [key]);
}
