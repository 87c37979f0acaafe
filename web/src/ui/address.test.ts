import { describe, expect, it } from "vitest";
import { addressOf, stateFrom } from "./address";

const USUAL = { search: "", show: "all" };

describe("the state of a view", () => {
  it("is read from its address, and is as usual where that says nothing", () => {
    expect(stateFrom(new URLSearchParams("show=warns&other=1"), USUAL)).toEqual({
      search: "",
      show: "warns",
    });
  });
  it("leaves out what is as usual, and what belongs to others alone", () => {
    const asked = new URLSearchParams("show=warns&other=1");
    expect(addressOf(asked, USUAL, { search: "a b", show: "all" }).toString()).toBe(
      "other=1&search=a+b",
    );
  });
});
