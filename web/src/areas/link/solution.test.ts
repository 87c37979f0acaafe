import { afterEach, beforeEach, expect, test, vi } from "vitest";
import { COUNTS_FOR, Solution } from "./solution";

let made: number;
const solve = () => Promise.resolve(`solution ${++made}`);

beforeEach(() => {
  made = 0;
  vi.useFakeTimers();
});
afterEach(() => vi.useRealTimers());

test("it is begun once, however often it is asked for", async () => {
  const kept = new Solution(solve);
  const asked = await Promise.all([kept.get(), kept.get(), kept.get()]);
  expect(asked).toEqual(["solution 1", "solution 1", "solution 1"]);
});

test("one that was used is made again", async () => {
  const kept = new Solution(solve);
  await kept.get();
  kept.renew();
  expect(await kept.get()).toBe("solution 2");
});

test("one that has become old is made again", async () => {
  const kept = new Solution(solve);
  await kept.get();
  vi.advanceTimersByTime(COUNTS_FOR);
  expect(await kept.get()).toBe("solution 1");
  vi.advanceTimersByTime(1);
  expect(await kept.get()).toBe("solution 2");
});

test("one that could not be fetched is asked for again, and another is not forgotten for it", async () => {
  let refuse: (reason: Error) => void = () => {};
  const lost = new Promise<string>((_, reject) => {
    refuse = reject;
  });
  const answers = [lost, solve(), solve()];
  const kept = new Solution(() => answers.shift() ?? solve());
  const first = kept.get();
  kept.renew();
  const second = kept.get();
  refuse(new Error("The server cannot be reached."));
  await expect(first).rejects.toThrow("cannot be reached");
  expect(kept.get()).toBe(second);
  const alone = new Solution(() => (made === 0 ? Promise.reject(new Error("away")) : solve()));
  made = 0;
  await expect(alone.get()).rejects.toThrow("away");
  made = 4;
  expect(await alone.get()).toBe("solution 5");
});
