import { expect, it } from "vitest";
import { type Hit, placeOf } from "./search";

const hit = (kind: string, key: string) => ({ kind, form: "loan_out", key }) as Hit;

it("leads from what was found to where it stands", () => {
  expect(placeOf(hit("form", "loan_out"))).toBe("/forms/loan_out/rules");
  expect(placeOf(hit("field", "piece"))).toBe("/forms/loan_out/fields?field=piece");
  expect(placeOf(hit("rule", "no_overlap"))).toBe("/forms/loan_out/rules?rule=no_overlap");
  expect(placeOf(hit("message", "no_overlap"))).toBe("/forms/loan_out/rules?rule=no_overlap");
});
