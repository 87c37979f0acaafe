import { expect, it } from "vitest";
import { asksFurther, conditionsIn, EVERYTHING, queryOf, whereOf } from "./asking";

const USUAL = { search: "", offset: 0, order: "-number" };

it("asks for what the address says, and for nothing that makes no sense", () => {
  expect(queryOf(EVERYTHING)).toEqual(USUAL);
  const whole = {
    search: "QH",
    state: "in_progress",
    outcome: "warned",
    on_hold: "yes",
    offset: "50",
  };
  expect(queryOf({ ...EVERYTHING, ...whole })).toEqual({
    ...whole,
    on_hold: true,
    order: "-number",
    offset: 50,
  });
  const odd = { state: "lost", outcome: "?", on_hold: "no", since: "soon", order: "up" };
  expect(queryOf({ ...EVERYTHING, ...odd, offset: "-7" })).toEqual({
    ...USUAL,
    order: undefined,
  });
  expect(queryOf({ ...EVERYTHING, offset: "many" }).offset).toBe(0);
  expect(queryOf({ ...EVERYTHING, offset: "99.9" }).offset).toBe(99);
});

it("keeps conditions in the address, and asks for those that are whole", () => {
  const conditions = [
    { field: "country", relation: "is", value: "a~b" },
    { field: "latitude", relation: "from", value: " " },
    { field: "collector", relation: "blank", value: "" },
  ];
  const where = whereOf(conditions);
  expect(conditionsIn(where)).toEqual(conditions);
  expect(queryOf({ ...EVERYTHING, where }).where).toEqual(["country~is~a~b", "collector~blank~"]);
  expect(asksFurther({ ...EVERYTHING, where, since: "2026-01-01" })).toBe(2);
});
