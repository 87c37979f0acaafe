// Where things stand along a picture, from 0 to 1: labels without overlap, and the stop at a point.
import type { Schemas } from "../../api/client";

export type Stop = Schemas["StopView"];

/** What is written at a place. */
export type Mark = { at: number; words: string };

/** Pixels that a sign of a label takes up, and that labels stand apart. */
const A_SIGN = 6.6;
const APART = 8;

/** In which row each label stands so that none lies over another, in a picture that is so many
 * pixels wide; null: there is no room for it.
 */
export function rowsOf(marks: readonly Mark[], rows: number, width: number): (number | null)[] {
  const ends: number[] = Array(rows).fill(Number.NEGATIVE_INFINITY);
  return marks.map(({ at, words }) => {
    const half = (words.length * A_SIGN) / width / 2;
    const [begin, end] = kept(at, half);
    const row = ends.findIndex((one) => one + APART / width <= begin);
    if (row < 0) return null;
    ends[row] = end;
    return row;
  });
}

/** A label's beginning and end, moved inward where it would stand over the edge. */
function kept(at: number, half: number): [number, number] {
  const middle = Math.min(Math.max(at, half), 1 - half);
  return [middle - half, middle + half];
}

/** By how much of its own width a label is drawn to the left, so that it stays in the picture. */
export function shiftOf({ at, words }: Mark, width: number) {
  const share = (words.length * A_SIGN) / width;
  if (at < share / 2) return -Math.round((100 * at) / share);
  if (at > 1 - share / 2) return -100 + Math.round((100 * (1 - at)) / share);
  return -50;
}

/** The place among some of that which is drawn nearest to a point. */
export function nearestAt(some: readonly { at: number }[], at: number) {
  let best = 0;
  some.forEach((one, place) => {
    if (Math.abs(one.at - at) < Math.abs((some[best]?.at ?? 0) - at)) best = place;
  });
  return best;
}

/** The next stop in a direction; by keys only those at which something begins, goes on or ends. */
export function nextStop(stops: readonly Stop[], from: number, by: 1 | -1, every: boolean) {
  for (let place = from + by; place >= 0 && place < stops.length; place += by)
    if (every || !stops[place]?.between) return place;
  return from;
}

/** Neighbours with the same content put together: where each run begins and ends, by place. */
export function runsOf<One>(items: readonly One[], same: (a: One, b: One) => boolean) {
  const runs: { first: number; last: number; one: One }[] = [];
  items.forEach((one, place) => {
    const before = runs.at(-1);
    if (before && same(before.one, one)) before.last = place;
    else runs.push({ first: place, last: place, one });
  });
  return runs;
}
