// Work in the background, as the server tells of it.
import type { Schemas } from "./client";

export type Job = Schemas["JobView"];

const ASKED_AGAIN_AFTER = 500; // milliseconds, while something is under way

export const isUnderWay = (job: Job | null | undefined) =>
  job?.state === "waiting" || job?.state === "running";

export const whileUnderWay = (job: Job | null | undefined) =>
  isUnderWay(job) ? ASKED_AGAIN_AFTER : false;

const LOOKED_AGAIN_AFTER = 2_000; // milliseconds, while something is not known as it is now
const FRESH_FOR = 10_000; // milliseconds in which others may have changed what a list counts

/** When a list is asked for again: soon while what it says is not `known` as it is now. */
export const askedAgain = (known: boolean | undefined) =>
  known === false ? LOOKED_AGAIN_AFTER : FRESH_FOR;
