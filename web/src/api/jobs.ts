// Work in the background, as the server tells of it.
import type { Schemas } from "./client";

export type Job = Schemas["JobView"];

const ASKED_AGAIN_AFTER = 500; // milliseconds, while something is under way

export const isUnderWay = (job: Job | null | undefined) =>
  job?.state === "waiting" || job?.state === "running";

export const whileUnderWay = (job: Job | null | undefined) =>
  isUnderWay(job) ? ASKED_AGAIN_AFTER : false;
