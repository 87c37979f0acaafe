// Finding what was done.
import type { Schemas } from "../../api/client";

type Act = Schemas["ActView"];

/** The acts that say what is searched for: in who did them, what was done, to what, or why. */
export function foundIn(acts: readonly Act[], search: string) {
  const wanted = search.trim().toLowerCase();
  return acts.filter(({ person, act, subject, note }) =>
    [person ?? "", act, subject, note].join(" ").toLowerCase().includes(wanted),
  );
}
