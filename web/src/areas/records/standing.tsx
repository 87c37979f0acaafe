// How far a record has come: returned with a remark, submitted, approved, stored by another release.
import { writtenMoment } from "../../ui/written";
import { words } from "../../words";
import type { Judgement } from "../form-sheet/judging";
import { readiness } from "../form-sheet/readiness";
import type { Desk, RecordView } from "./queries";

const t = words("records");

type Props = { record: RecordView; desk: Desk; judgement: Judgement | undefined };

export function Standing({ record, desk, judgement }: Props) {
  const older = record.release < desk.release;
  return (
    <div className="my-2 space-y-1 empty:hidden">
      {record.state === "returned" && (
        <div className="border-l-4 border-ochre bg-tint px-3 py-2">
          <p className="font-semibold">
            {t("returned_decided_by", {
              ...byWhom(record.decided_by, record.decided_at),
              keeper: String(Boolean(record.keeper)),
              keeper2: record.keeper ?? "",
            })}
          </p>
          <p className="whitespace-pre-line">{record.remark}</p>
          <p className="text-sm text-muted">{t("correct_what_it_says_then_submit_the")}</p>
        </div>
      )}
      {record.state === "submitted" && (
        <p className="text-muted">
          {t("submitted_submitted_by_it_can_no_longer", {
            ...byWhom(record.submitted_by, record.submitted_at),
            may_take_back: String(Boolean(record.may_take_back)),
          })}
        </p>
      )}
      {record.state === "approved" && (
        <p className="text-moss">
          {t("approved_decided_by_it_stays_as_it", byWhom(record.decided_by, record.decided_at))}
        </p>
      )}
      {older && judgement && (
        <p className="text-slate">
          {t("it_was_stored_by_release_release_release", {
            release: record.release,
            release2: desk.release,
            save: readiness(judgement.save),
            submit: readiness(judgement.submit),
          })}
        </p>
      )}
    </div>
  );
}

/** Who and when, as far as they are known, for a sentence. */
function byWhom(who: string | null, when: string | null) {
  return {
    known: String(who !== null),
    who: who ?? "",
    dated: String(when !== null),
    when: when ? writtenMoment(when) : "",
  };
}
