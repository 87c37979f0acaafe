// What is said of a file of records and of what came of it.
import { counted } from "../../ui/counts";
import { writtenNumber } from "../../ui/written";
import type { RecordFile } from "./queries";

const KILOBYTE = 1024;

/** “12 kB” or “3.4 MB”. */
export function sizeOf(bytes: number) {
  const kilobytes = bytes / KILOBYTE;
  return kilobytes < KILOBYTE
    ? `${Math.max(1, Math.round(kilobytes))} kB`
    : `${(kilobytes / KILOBYTE).toFixed(1)} MB`;
}

/** What came of the rows, in one sentence; blank where nothing was done yet. */
export function cameWords({ came }: Pick<RecordFile, "came">) {
  if (!came) return "";
  const { dry, added, changed, refused, known, held, warned } = came;
  const would = dry ? "would be " : "";
  const parts = [
    added > 0 && `${writtenNumber(added)} ${would}added`,
    changed > 0 && `${writtenNumber(changed)} ${would}changed`,
    refused > 0 && `${writtenNumber(refused)} ${would}refused`,
    known > 0 && `${writtenNumber(known)} brought by an earlier run`,
  ].filter(Boolean);
  const further = [
    held > 0 && `${writtenNumber(held)} on hold`,
    warned > 0 && `${writtenNumber(warned)} with a warning`,
  ].filter(Boolean);
  const all = `Of ${counted(came.rows, "row")} ${parts.join(", ") || "none was looked at"}`;
  return `${all}${further.length ? `; of those stored ${further.join(" and ")}` : ""}.`;
}
