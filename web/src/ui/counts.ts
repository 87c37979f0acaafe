import { words } from "../words";
import { writtenNumber } from "./written";

const t = words("counts");

/** What can be counted. */
export type Counted = Parameters<typeof t>[0];

/** “1 rule”, “2 rules”. */
export const counted = (count: number, what: Counted) =>
  t(what, { count, shown: writtenNumber(count) });
