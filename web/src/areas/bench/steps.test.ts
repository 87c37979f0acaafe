import { describe, expect, it } from "vitest";
import { begun, settled, stepped } from "./steps";
import { type BenchForm, bodyOf, flipped, inputOf, inputWith } from "./trying";

const typed = (text: string) => inputWith({ depth: text });

describe("the steps of a try", () => {
  it("are one while somebody types on in a field, and a new one after the field was left", () => {
    let steps = begun(typed(""));
    steps = stepped(stepped(steps, typed("1"), "depth"), typed("12"), "depth");
    expect(steps.steps.map((step) => step.tried.entries.values.depth)).toEqual(["", "12"]);
    steps = stepped(settled(steps), typed("9"), "depth");
    expect(steps.at).toBe(2);
  });

  it("drop what was tried after the step one went back to", () => {
    const steps = { ...stepped(begun(typed("1")), typed("2"), null), at: 0 };
    expect(stepped(steps, typed("3"), null).steps.length).toBe(2);
  });
});

const FORM = {
  fields: [
    { key: "terms", type: "yes_no" },
    { key: "kind", type: "choice", choices: [{ code: "a" }, { code: "b" }] },
    { key: "email", type: "text" },
  ],
} as unknown as BenchForm;

describe("a try", () => {
  it("flips to what stood there before, or to the answer beside it", () => {
    const [terms, kind] = FORM.fields as [BenchForm["fields"][0], BenchForm["fields"][0]];
    expect(flipped(terms, true, [true, null, false])).toBe(null);
    expect(flipped(terms, true, [])).toBe(false);
    expect(flipped(kind, "b", ["b"])).toBe("a");
  });

  it("sends what the form has, second entries too, and keeps the rest to itself", () => {
    const tried = inputWith({ email: "x", "email.again": "x", gone: "y" });
    expect(bodyOf(tried, FORM).values).toEqual({ email: "x", "email.again": "x" });
  });

  it("stands as a kept case has it", () => {
    const tried = inputOf({
      key: "one",
      name: "One",
      circumstances: { as_of: "2026-06-12", event: "update", stored: { kind: "a" } },
      values: { kind: "b" },
      expected: { save: "clear", submit: "clear" },
    } as unknown as Parameters<typeof inputOf>[0]);
    expect(bodyOf(tried, FORM)).toMatchObject({
      as_of: "2026-06-12",
      stored: { kind: "a" },
      case: "one",
      values: { kind: "b" },
    });
  });
});
