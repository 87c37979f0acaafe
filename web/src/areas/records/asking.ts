// What is asked of the list of records, as it stands in the address.
import type { Schemas } from "../../api/client";

type Summary = Schemas["RecordSummary"];
export const STATES: Summary["state"][] = ["saved", "submitted"];
export const OUTCOMES: Summary["outcome"][] = ["clear", "noted", "warned"];
export const EVERYTHING = { search: "", state: "", outcome: "", on_hold: "", offset: "" };

/** What the server is asked; what makes no sense in the address is not asked. */
export function queryOf(asked: typeof EVERYTHING) {
  return {
    state: STATES.find((state) => state === asked.state),
    outcome: OUTCOMES.find((outcome) => outcome === asked.outcome),
    on_hold: asked.on_hold === "yes" || undefined,
    search: asked.search,
    offset: Math.max(0, Math.trunc(Number(asked.offset)) || 0),
  };
}
