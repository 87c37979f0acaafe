import { describe, expect, it } from "vitest";
import { nameOf, receiverOf } from "./names";
import type { Receiver } from "./queries";
import { anyOccasion, OCCASIONS, occasionWords, STATES, stateWords } from "./words";

describe("receivers", () => {
  const each: Receiver[] = [
    { who: "person", name: "o.farrowby@example.org" },
    { who: "role", role: "approver" },
    { who: "field", field: "borrower.email" },
    { who: "submitter" },
    { who: "keeper" },
  ];
  it.each(each)("stand in a list by a name of their own, and come back: $who", (receiver) => {
    expect(receiverOf(nameOf(receiver))).toEqual(receiver);
  });
  it("differ by their names", () => {
    expect(new Set(each.map(nameOf)).size).toBe(each.length);
  });
});

describe("words", () => {
  it("say every occasion, one or several", () => {
    expect(anyOccasion(["saved"])).toBe("saved");
    expect(anyOccasion(["saved", "held", "sent_back"])).toBe("saved or put on hold or sent back");
    expect(OCCASIONS.map(({ label }) => label)).toContain(occasionWords("approved"));
  });
  it("say how a message stands", () => {
    expect(STATES.map(([state]) => stateWords(state))).toEqual(["waiting", "sent", "not sent"]);
  });
});
