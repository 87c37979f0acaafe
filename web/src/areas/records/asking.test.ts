import { expect, it } from "vitest";
import { EVERYTHING, queryOf } from "./asking";

it("asks for what the address says, and for nothing that makes no sense", () => {
  expect(queryOf(EVERYTHING)).toEqual({ search: "", offset: 0 });
  const whole = { search: "QH", state: "saved", outcome: "warned", on_hold: "yes", offset: "50" };
  expect(queryOf(whole)).toEqual({ ...whole, on_hold: true, offset: 50 });
  const odd = { search: "", state: "lost", outcome: "?", on_hold: "no", offset: "-7" };
  expect(queryOf(odd)).toEqual({ search: "", offset: 0 });
  expect(queryOf({ ...EVERYTHING, offset: "many" }).offset).toBe(0);
  expect(queryOf({ ...EVERYTHING, offset: "99.9" }).offset).toBe(99);
});
