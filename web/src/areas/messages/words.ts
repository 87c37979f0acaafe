// Occasions and states of messages, in words.
import type { Line, Message } from "./queries";

type Occasion = Message["occasions"][number];

const OCCASION_WORDS: Record<Occasion, string> = {
  saved: "saved",
  held: "put on hold",
  submitted: "submitted",
  approved: "approved",
  sent_back: "sent back",
};

export const OCCASIONS = Object.entries(OCCASION_WORDS).map(([value, label]) => ({ value, label }));
export const occasionWords = (occasion: Occasion) => OCCASION_WORDS[occasion];
/** “submitted or approved”. */
export const anyOccasion = (occasions: readonly Occasion[]) =>
  occasions.map(occasionWords).join(" or ");

export const STATES: readonly (readonly [Line["state"], string])[] = [
  ["waiting", "waiting"],
  ["sent", "sent"],
  ["failed", "not sent"],
];
export const stateWords = (state: Line["state"]) =>
  STATES.find(([one]) => one === state)?.[1] ?? state;
