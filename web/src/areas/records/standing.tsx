// How far a record has come: sent back with a remark, submitted, approved, stored by another release.
import { writtenMoment } from "../../ui/written";
import type { Judgement } from "../form-sheet/judging";
import { readiness } from "../form-sheet/readiness";
import type { Desk, RecordView } from "./queries";

type Props = { record: RecordView; desk: Desk; judgement: Judgement | undefined };

export function Standing({ record, desk, judgement }: Props) {
  const older = record.release < desk.release;
  return (
    <div className="my-2 space-y-1 empty:hidden">
      {record.state === "returned" && (
        <div className="border-l-4 border-ochre bg-tint px-3 py-2">
          <p className="font-semibold">
            Sent back{byWhom(record.decided_by, record.decided_at)}
            {record.keeper && `, to ${record.keeper}`}.
          </p>
          <p className="whitespace-pre-line">{record.remark}</p>
          <p className="text-sm text-muted">Correct what it says, then submit the record again.</p>
        </div>
      )}
      {record.state === "submitted" && (
        <p className="text-muted">
          Submitted{byWhom(record.submitted_by, record.submitted_at)}. It can no longer be changed
          where it is: {record.may_take_back ? "you can take it back, and " : ""}an approver can
          approve it or send it back.
        </p>
      )}
      {record.state === "approved" && (
        <p className="text-moss">
          Approved{byWhom(record.decided_by, record.decided_at)}. It stays as it is, whatever is
          released.
        </p>
      )}
      {older && judgement && (
        <p className="text-slate">
          It was stored by release {record.release}; release {desk.release} counts now, by which
          saving it as it is {readiness(judgement.save)}, and submitting it{" "}
          {readiness(judgement.submit)}.
        </p>
      )}
    </div>
  );
}

function byWhom(who: string | null, when: string | null) {
  return `${who ? ` by ${who}` : ""}${when ? `, ${writtenMoment(when)}` : ""}`;
}
