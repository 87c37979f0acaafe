// Whose screen this is: what is kept in the browser belongs to one person, and goes at sign-out.
type Listener = (name: string) => void;

const listeners = new Set<Listener>();
let owner = "";

export const ownerName = () => owner;

/** Somebody has arrived, or nobody is signed in any more (a blank name). */
export function setOwner(name: string) {
  if (name === owner) return;
  owner = name;
  for (const listener of listeners) listener(name);
}

export function onOwnerChange(listener: Listener) {
  listeners.add(listener);
  return () => {
    listeners.delete(listener);
  };
}
