import { expect, it } from "vitest";
import { foundIn } from "./finding";

const act = (person: string | null, what: string, subject: string, note = "") => ({
  ...{ at: "2026-06-12T10:00:00Z", person, act: what, subject, note },
});
const ACTS = [
  act("Odile Farrowby", "change rule", "Depth is given"),
  act(null, "release", "Release 2", "Bounds of the depth."),
  act("Ingram Solway", "add field", "Grade"),
];

it("finds acts by person, act, subject and note, in small letters or capitals", () => {
  expect(foundIn(ACTS, "")).toEqual(ACTS);
  expect(foundIn(ACTS, "  DEPTH ")).toEqual(ACTS.slice(0, 2));
  expect(foundIn(ACTS, "solway")).toEqual([ACTS[2]]);
  expect(foundIn(ACTS, "null")).toEqual([]);
  expect(foundIn(ACTS, "add field grade")).toEqual([ACTS[2]]);
});
