import { expect, it } from "vitest";
import type { Right } from "../../api/session";
import { homeFor, keepPlace, lastPlace, placeFor, stageAt, stagesFor } from "./stages";

const STEWARD: Right[] = [
  "read",
  "edit_draft",
  "release",
  "use_bench",
  "write_records",
  "lift_hold",
  "watch",
];
const CLERK: Right[] = ["read", "write_records"];
const READER: Right[] = ["read"];

const placesOf = (rights: readonly Right[]) =>
  Object.fromEntries(
    stagesFor(rights).map(({ name, places }) => [name, places.map((place) => place.at)]),
  );

it("shows a steward every page of a form, in the order of the work", () => {
  expect(placesOf(STEWARD)).toEqual({
    Write: ["fields", "rules", "plan", "setup"],
    Prove: ["bench", "cases", "proof", "findings"],
    Release: ["impact", "releases"],
    Live: ["records", "imports", "access", "watch", "messages", "history"],
  });
});

it("shows nobody a page that is of no use to them", () => {
  expect(placesOf(CLERK)).toEqual({ "": ["records", "imports"] });
  expect(placesOf(READER)).toEqual({
    Write: ["fields", "rules", "plan", "setup"],
    Release: ["impact", "releases"],
    Live: ["records", "history"],
  });
  const tries = placesOf([...CLERK, "use_bench"]);
  expect(Object.keys(tries)).toEqual(["Prove", "Live"]);
  expect(tries.Live).not.toContain("access");
});

it("puts what waits for approval first for those who approve", () => {
  expect(placesOf([...READER, "approve"]).Live?.[0]).toBe("approval");
  expect(placesOf(STEWARD).Live).not.toContain("approval");
});

it("begins where somebody's work is", () => {
  expect([STEWARD, READER, CLERK].map(homeFor)).toEqual(["/forms", "/forms", "/desk"]);
  expect([STEWARD, READER, CLERK].map(placeFor)).toEqual(["rules", "rules", "records"]);
});

it("leads back to the page of a stage that was looked at last, form by form", () => {
  const stages = stagesFor(STEWARD);
  const proving = stageAt(stages, "/forms/loan/cases/3");
  expect(proving?.name).toBe("Prove");
  expect(stageAt(stages, "/forms/loan/nowhere")).toBeUndefined();
  if (!proving) return;
  expect(lastPlace("loan", proving)).toBe("bench");
  keepPlace("loan", proving, "/forms/loan/cases/3");
  expect(lastPlace("loan", proving)).toBe("cases");
  expect(lastPlace("plant", proving)).toBe("bench");
});
