import { writtenNumber } from "../../ui/written";
import { words } from "../../words";
import type { RecordFile } from "./queries";

const t = words("imports");

const KILOBYTE = 1024;

/** “12 kB” or “3.4 MB”. */
export function sizeOf(bytes: number) {
  const kilobytes = bytes / KILOBYTE;
  return kilobytes < KILOBYTE
    ? t("max_kb", { max: Math.max(1, Math.round(kilobytes)) })
    : t("tofixed_mb", { toFixed: (kilobytes / KILOBYTE).toFixed(1) });
}

/** What came of the rows, in one sentence; blank where nothing was done yet. */
export function cameWords({ came }: Pick<RecordFile, "came">) {
  if (!came) return "";
  const { dry, added, changed, refused, known, held, warned } = came;
  const would = String(dry);
  const parts = [
    added > 0 && t("added_would_added", { added: writtenNumber(added), would }),
    changed > 0 && t("changed_would_changed", { changed: writtenNumber(changed), would }),
    refused > 0 && t("refused_would_refused", { refused: writtenNumber(refused), would }),
    known > 0 && t("known_brought_by_an_earlier_run", { known: writtenNumber(known) }),
  ].filter(Boolean);
  const further = [
    held > 0 && t("held_on_hold", { held: writtenNumber(held) }),
    warned > 0 && t("warned_with_a_warning", { warned: writtenNumber(warned) }),
  ].filter(Boolean);
  return t("outcome_of_rows", {
    rows: came.rows,
    rowsShown: writtenNumber(came.rows),
    parts: parts.join(", ") || t("none_was_looked_at"),
    further: String(further.length > 0),
    stored: further.join(" and "),
  });
}
