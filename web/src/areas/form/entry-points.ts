// Where records come from, in words: as the way one comes, and as the place a rule counts at.
import type { components } from "../../api/schema";
import { words } from "../../words";

const t = words("form");

type EntryPoint = components["schemas"]["CaseCircumstances"]["entry_point"];

const WORDS: Record<NonNullable<EntryPoint>, { way: string; place: string }> = {
  desk: { way: t("at_the_desk"), place: t("the_desk") },
  handheld: { way: t("on_a_hand_held"), place: t("a_hand_held") },
  link: { way: t("through_a_link"), place: t("a_link") },
  import: { way: t("by_import"), place: t("an_import") },
  service: { way: t("by_a_service"), place: t("a_service") },
};

/** “by import”. */
export const wayWords = (entryPoint: NonNullable<EntryPoint>) => WORDS[entryPoint].way;

export const WAYS = Object.entries(WORDS).map(([value, { way }]) => ({ value, label: way }));
export const PLACES = Object.entries(WORDS).map(([value, { place }]) => ({ value, label: place }));
