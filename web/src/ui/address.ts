// The state of a view in its address, so that it can be shared, gone back to and reloaded.
import { useCallback, useEffect, useRef, useState } from "react";
import { useNavigation, useSearchParams } from "react-router";

const WRITTEN_AFTER = 200; // milliseconds without another change
/** The one part of a state that is typed, letter by letter. */
const TYPED = "search";
const ARRIVES_WITHIN = 2000; // milliseconds

/** What an address says, where it says anything. */
export function stateFrom<T extends Record<string, string>>(asked: URLSearchParams, usual: T): T {
  const told = Object.keys(usual).map((name) => [name, asked.get(name) ?? usual[name]]);
  return Object.fromEntries(told);
}

/** The address of a state: what is as usual is left out, and what belongs to others stays. */
export function addressOf<T extends Record<string, string>>(
  asked: URLSearchParams,
  usual: T,
  state: T,
): URLSearchParams {
  const next = new URLSearchParams(asked);
  for (const [name, value] of Object.entries(state))
    if (value === usual[name]) next.delete(name);
    else next.set(name, value);
  return next;
}

/** What was written last and has not arrived yet: several parts of a page may write at once. */
let outstanding: { path: string; text: string; until: number } | null = null;

function stillOutstanding(text: string) {
  const waiting =
    outstanding !== null &&
    outstanding.path === window.location.pathname &&
    outstanding.until > Date.now() &&
    outstanding.text !== text;
  if (!waiting) outstanding = null;
  return waiting;
}

/**
 * Like useState for a few texts that are kept in the address. `usual` must stay the same object.
 * The screen follows at once, and so does the address, but while somebody types; it takes no step of
 * its own in the history.
 */
export function useAddress<T extends Record<string, string>>(usual: T) {
  const [asked, setAsked] = useSearchParams();
  const [state, setState] = useState(() => stateFrom(asked, usual));
  const text = asked.toString();
  const moving = useNavigation().state !== "idle";
  const latest = useRef({ text, setAsked, state, moving });
  latest.current = { text, setAsked, state: latest.current.state, moving };
  const timer = useRef<ReturnType<typeof setTimeout>>(undefined);
  useEffect(() => {
    if (stillOutstanding(text) || timer.current !== undefined) return;
    // Somebody went back, or followed a link to this same view.
    const next = stateFrom(new URLSearchParams(text), usual);
    if (JSON.stringify(next) === JSON.stringify(latest.current.state)) return;
    latest.current.state = next;
    setState(next);
  }, [text, usual]);
  const write = useCallback(() => {
    clearTimeout(timer.current);
    timer.current = undefined;
    const { text: there, state: meant, moving } = latest.current;
    // Whoever is on the way elsewhere is not called back.
    if (moving && !stillOutstanding(there)) return;
    const base = stillOutstanding(there) ? (outstanding?.text ?? there) : there;
    const next = addressOf(new URLSearchParams(base), usual, meant);
    if (next.toString() === base) return;
    outstanding = {
      path: window.location.pathname,
      text: next.toString(),
      until: Date.now() + ARRIVES_WITHIN,
    };
    latest.current.setAsked(next, { replace: true });
  }, [usual]);
  useEffect(() => {
    // What was typed stands in the address before anybody goes elsewhere.
    const flush = () => timer.current !== undefined && write();
    const onKey = (event: KeyboardEvent) => event.key === "Enter" && flush();
    document.addEventListener("click", flush, true);
    document.addEventListener("keydown", onKey, true);
    return () => {
      document.removeEventListener("click", flush, true);
      document.removeEventListener("keydown", onKey, true);
      clearTimeout(timer.current);
    };
  }, [write]);
  const change = useCallback(
    (part: Partial<T>) => {
      latest.current.state = { ...latest.current.state, ...part };
      setState(latest.current.state);
      clearTimeout(timer.current);
      if (TYPED in part) timer.current = setTimeout(write, WRITTEN_AFTER);
      else write();
    },
    [write],
  );
  return [state, change] as const;
}
