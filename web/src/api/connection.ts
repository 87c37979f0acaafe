// Whether the server can be reached, for the banner that says so.
import { useSyncExternalStore } from "react";

type Listener = () => void;
const listeners = new Set<Listener>();
let reachable = true;

export const connection = {
  report(now: boolean) {
    if (now === reachable) return;
    reachable = now;
    for (const listener of listeners) listener();
  },
  subscribe(listener: Listener) {
    listeners.add(listener);
    return () => listeners.delete(listener);
  },
};

export function useReachable() {
  return useSyncExternalStore(connection.subscribe, () => reachable);
}
