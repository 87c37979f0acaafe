import { describe, expect, it } from "vitest";
import { nameOf, receiverOf } from "./names";
import type { Receiver } from "./queries";
import { anyOccasion, isUnderWay, OCCASIONS, occasionWords, STATES, stateWords } from "./words";

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
    expect(anyOccasion(["saved", "held", "returned"])).toBe("saved or put on hold or returned");
    expect(OCCASIONS.map(({ label }) => label)).toContain(occasionWords("approved"));
  });
  it("say how a message stands", () => {
    expect(STATES.map(([state]) => stateWords(state))).toEqual(["waiting", "sent", "not sent"]);
  });
});

describe("what is being sent", () => {
  const written_at = "2026-06-12T12:00:00Z";
  const now = Date.parse(written_at);
  it.each([
    ["just written", { state: "waiting", next_at: null, written_at }, true],
    ["sent", { state: "sent", next_at: null, written_at }, false],
    [
      "tried again in a moment",
      { state: "waiting", next_at: "2026-06-12T12:00:15Z", written_at },
      true,
    ],
    [
      "tried again in hours",
      { state: "waiting", next_at: "2026-06-12T20:00:00Z", written_at },
      false,
    ],
    [
      "left lying for a day",
      { state: "waiting", next_at: null, written_at: "2026-06-11T12:00:00Z" },
      false,
    ],
  ] as const)("is looked at again only about then: %s", (_, line, looked) => {
    expect(isUnderWay(line, now)).toBe(looked);
  });
});
