// Occasions and states of messages, in words.
import type { Schemas } from "../../api/client";
import { words } from "../../words";

const t = words("messages");

type Line = Schemas["MessageLine"];
type Message = Schemas["WrittenMessage"];

type Occasion = Message["occasions"][number];

const OCCASION_WORDS: Record<Occasion, string> = {
  saved: t("saved"),
  held: t("put_on_hold"),
  submitted: t("submitted"),
  approved: t("approved"),
  returned: t("returned"),
};

export const OCCASIONS = Object.entries(OCCASION_WORDS).map(([value, label]) => ({ value, label }));
export const occasionWords = (occasion: Occasion) => OCCASION_WORDS[occasion];
/** “submitted or approved”. */
export const anyOccasion = (occasions: readonly Occasion[]) =>
  occasions.map(occasionWords).join(" or ");

export const STATES: readonly (readonly [Line["state"], string])[] = [
  ["waiting", "waiting"],
  ["sent", "sent"],
  ["failed", t("not_sent")],
];
export const stateWords = (state: Line["state"]) =>
  STATES.find(([one]) => one === state)?.[1] ?? state;

type Due = { state: Line["state"]; next_at: string | null; written_at: string };
const SOON = 30_000; // milliseconds

/** Whether something is being sent about now, so that it is worth looking again. */
export function isUnderWay({ state, next_at, written_at }: Due, now: number) {
  return state === "waiting" && Math.abs(Date.parse(next_at ?? written_at) - now) < SOON;
}
