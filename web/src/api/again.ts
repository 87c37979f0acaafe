// A session that has ended: what was asked waits until whoever was here has signed in again.
import { ownerName } from "../ui/owner";

type Settle = (samePerson: boolean) => void;
const waiting = new Set<Settle>();
let tell: () => void = () => undefined;

/** Who is to be told that a session seems to have ended. */
export function onSessionEnded(listener: () => void) {
  tell = listener;
}

/** Whether the same person is back; false where somebody else came, or nobody was here. */
export function signedInAgain(signal: AbortSignal): Promise<boolean> {
  if (!ownerName()) return Promise.resolve(false);
  return new Promise((resolve) => {
    const settle: Settle = (samePerson) => {
      waiting.delete(settle);
      resolve(samePerson);
    };
    signal.addEventListener("abort", () => settle(false));
    waiting.add(settle);
    tell();
  });
}

/** Somebody is here, or everybody has left: nothing waits any longer. */
export function arrived(samePerson: boolean) {
  for (const settle of [...waiting]) settle(samePerson);
}
