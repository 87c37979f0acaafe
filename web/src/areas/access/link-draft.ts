// What is written of a link, as it is sent.
import type { Ending, LinkEntry } from "./link-queries";

export type LinkDraft = {
  entry: LinkEntry;
  endings: readonly { ending: Ending }[];
  /** Records at most, as it is written. */
  most: string;
  /** Pages that may show it inside, as they are written. */
  origins: string;
};

/** Whether it is neither blank nor a whole number from 1 to 1,000,000. */
export const isNoNumber = (most: string) =>
  most.trim() !== "" && !(/^[1-9]\d{0,6}$/.test(most.trim()) && Number(most) <= 1_000_000);

export function asSent({ entry, endings, most, origins }: LinkDraft): LinkEntry {
  return {
    ...entry,
    endings: endings.map(({ ending }) => ending),
    most: most.trim() ? Number(most) : null,
    origins: origins.split(/[\s,]+/).filter(Boolean),
  };
}
