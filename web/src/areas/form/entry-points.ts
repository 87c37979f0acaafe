// Where records come from, in words: as the way one comes, and as the place a rule counts at.
import type { components } from "../../api/schema";

type EntryPoint = components["schemas"]["CaseCircumstances"]["entry_point"];

const WORDS: Record<NonNullable<EntryPoint>, { way: string; place: string }> = {
  desk: { way: "at the desk", place: "the desk" },
  handheld: { way: "on a hand-held", place: "a hand-held" },
  link: { way: "through a link", place: "a link" },
  import: { way: "by import", place: "an import" },
  service: { way: "by a service", place: "a service" },
};

/** “by import”. */
export const wayWords = (entryPoint: NonNullable<EntryPoint>) => WORDS[entryPoint].way;

export const WAYS = Object.entries(WORDS).map(([value, { way }]) => ({ value, label: way }));
export const PLACES = Object.entries(WORDS).map(([value, { place }]) => ({ value, label: place }));
