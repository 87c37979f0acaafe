// What was submitted, worked through one after the other, with the record beside the list.

import { useQuery } from "@tanstack/react-query";
import { useEffect } from "react";
import { Link, useParams } from "react-router";
import { useMay } from "../../api/session";
import { Button } from "../../ui/button";
import { Facet } from "../../ui/facet";
import { Page } from "../../ui/page";
import { Trouble } from "../../ui/trouble";
import { writtenDay, writtenNumber } from "../../ui/written";
import { words } from "../../words";
import { levelOf } from "../form/outcomes";
import { FormSheet } from "../form-sheet/form-sheet";
import { changesOf, entriesWith, useJudgement } from "../form-sheet/judging";
import { type Approving, useApproving } from "./approving";
import { Came } from "./chosen";
import { Decisions, SendingBack } from "./decisions";
import { type Desk, deskQuery, type RecordView, recordQuery } from "./queries";
import { PAGE } from "./records-page";
import { Standing } from "./standing";

const t = words("records");

export function ApprovalPage() {
  const { formKey = "" } = useParams();
  const mayApprove = useMay("approve");
  const desk = useQuery(deskQuery(formKey)).data;
  const approving = useApproving(formKey, mayApprove);
  const { shown } = approving;
  if (!mayApprove)
    return (
      <Page title={t("to_approve")} className="p-6">
        <p>{t("your_role_may_not_approve_records_ask")}</p>
      </Page>
    );
  return (
    <Page
      title={t("to_approve")}
      of={desk?.name}
      className="mx-auto grid w-full max-w-7xl gap-6 px-6 py-5 lg:grid-cols-[22rem_minmax(0,1fr)]"
    >
      <ToApprove approving={approving} />
      {shown && desk && <Beside key={shown.number} desk={desk} number={shown.number} />}
    </Page>
  );
}

function ToApprove({ approving }: { approving: Approving }) {
  const { waiting, decide, many, meant } = approving;
  const total = waiting.data?.total;
  return (
    <section aria-label={t("records_to_approve")}>
      <p className="text-muted">
        {total !== undefined &&
          t("total_records_to_approve_oldest_first", { total, totalShown: writtenNumber(total) })}
      </p>
      <p className="mb-2 text-sm text-muted">
        {t.rich("keys_j_and_k_move_x_chooses", { kbd: (chunks) => <kbd>{chunks}</kbd> })}
      </p>
      <Trouble error={waiting.error ?? decide.error} />
      {total === 0 && (
        <p className="border-t border-hairline py-4 text-muted">
          {t("nothing_waits_for_approval")}{" "}
          <Link to="../records" className="underline">
            {t("all_records")}
          </Link>
        </p>
      )}
      <RecordList approving={approving} />
      <Further total={total ?? 0} offset={approving.offset} onGo={approving.turnTo} />
      {many.length > 0 && (
        <div className="mt-3 flex flex-wrap gap-2">
          <Button
            look="solid"
            busy={decide.isPending}
            onClick={() => approving.decideOn("approve", many)}
          >
            {t("approve_the_count_chosen_records", {
              count: many.length,
              countShown: writtenNumber(many.length),
            })}
          </Button>
          <Button onClick={() => approving.setSending(true)}>{t("return_them")}</Button>
        </div>
      )}
      {approving.sending && (
        <SendingBack
          busy={decide.isPending}
          receiver={many.length > 1 ? null : (approving.shown?.keeper ?? null)}
          onSend={(remark, to) => approving.decideOn("return", meant, remark, to)}
          onClose={() => approving.setSending(false)}
        />
      )}
      {decide.data && <Came came={decide.data} act={decide.variables.act} />}
    </section>
  );
}

function RecordList({ approving }: { approving: Approving }) {
  const { records, shown, chosen, list, toggle } = approving;
  return (
    <ul ref={list} className="border-t border-edge">
      {records.map((record) => (
        <li
          key={record.number}
          className={`flex items-start gap-2 border-b border-hairline px-1 ${record === shown ? "bg-tint" : ""}`}
        >
          <input
            type="checkbox"
            aria-label={t("choose_record_number", { number: record.number })}
            className="mt-3 size-4 accent-thistle"
            checked={chosen.includes(record.number)}
            onChange={() => toggle(record.number)}
          />
          <button
            type="button"
            data-number={record.number}
            aria-current={record === shown ? "true" : undefined}
            className="min-w-0 grow py-1.5 text-left"
            onClick={() => approving.show(record.number)}
          >
            <span className="block truncate">
              {record.title || t("record_number", { number: record.number })}
            </span>
            <span className="flex items-center gap-1.5 text-sm text-muted">
              <Facet level={levelOf(record.outcome)} size={12} /> {record.outcome},{" "}
              {writtenDay(record.changed_at)}, {record.changed_by}
            </span>
          </button>
        </li>
      ))}
    </ul>
  );
}

type FurtherProps = { total: number; offset: number; onGo: (offset: number) => void };

/** The parts of a long list; where the last of a part were decided on, the one before it. */
function Further({ total, offset, onGo }: FurtherProps) {
  useEffect(() => {
    if (offset > 0 && offset >= total) onGo(Math.max(0, offset - PAGE));
  }, [total, offset, onGo]);
  if (total <= PAGE) return null;
  return (
    <div className="mt-2 flex gap-2">
      {offset > 0 && (
        <Button onClick={() => onGo(Math.max(0, offset - PAGE))}>{t("those_before")}</Button>
      )}
      {offset + PAGE < total && (
        <Button onClick={() => onGo(offset + PAGE)}>{t("those_after")}</Button>
      )}
    </div>
  );
}

function Beside({ desk, number }: { desk: Desk; number: number }) {
  const record = useQuery(recordQuery(desk.key, String(number))).data;
  return record ? <Paper desk={desk} record={record} /> : null;
}

function Paper({ desk, record }: { desk: Desk; record: RecordView }) {
  const reasons = Object.entries(record.reasons);
  const entries = {
    ...entriesWith(record.values),
    applied: record.proposals_applied,
    reasons: Object.fromEntries(reasons.map(([rule, { text, basis }]) => [rule, { text, basis }])),
  };
  const passed = reasons.map(([rule, one]) => [rule, { ...one, rule: desk.rules[rule] ?? rule }]);
  const judgement = useJudgement(desk.key, desk.release, entries, [], record);
  return (
    <article aria-label={t("record_number", { number: record.number })}>
      <h3 className="text-xl">
        <Link to={`../records/${record.number}`} className="hover:underline">
          {record.title || t("record_number", { number: record.number })}
        </Link>
      </h3>
      <Standing record={record} desk={desk} judgement={judgement.data} />
      <Decisions formKey={desk.key} record={record} onTakenBack={() => {}} />
      <FormSheet
        fields={desk.fields}
        sheet={desk.sheet}
        entries={entries}
        judgement={judgement.data}
        // All that submitting told is seen: warnings and notes, too.
        pressed="submit"
        readOnly
        passed={Object.fromEntries(passed)}
        held={record.on_hold}
        {...changesOf(
          () => {},
          () => {},
        )}
      />
    </article>
  );
}
