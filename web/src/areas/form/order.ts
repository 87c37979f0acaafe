// The order of rules and fields while it is changed.
import { useRef } from "react";

/** The keys with one moved a step up (-1) or down (1) among them. */
export function moved(keys: readonly string[], key: string, by: -1 | 1) {
  const from = keys.indexOf(key);
  const to = from + by;
  if (from < 0 || to < 0 || to >= keys.length) return [...keys];
  const next = keys.filter((one) => one !== key);
  next.splice(to, 0, key);
  return next;
}

type Order = { isPending: boolean; mutate: (keys: string[]) => void };

/** Moving parts one after the other, faster than they are stored. */
export function useReordering(keys: string[], order: Order) {
  // The order as it was meant last, which the next move goes on from before anything is drawn.
  const meant = useRef(keys);
  if (!order.isPending) meant.current = keys;
  const latest = useRef(order.mutate);
  latest.current = order.mutate;
  return useRef({
    put(change: (meant: string[]) => string[]) {
      meant.current = change(meant.current);
      latest.current(meant.current);
    },
    /** Put one before another. */
    drop(key: string, before: string) {
      this.put((keys) => {
        const next = keys.filter((one) => one !== key);
        next.splice(next.indexOf(before), 0, key);
        return next;
      });
    },
  }).current;
}
