// The desk: one record filled in, saved and submitted. The server judges every time.
import { useQuery } from "@tanstack/react-query";
import { Printer } from "lucide-react";
import type { KeyboardEvent } from "react";
import { Link, useParams } from "react-router";
import { Refused } from "../../api/client";
import { useMay } from "../../api/session";
import { Button } from "../../ui/button";
import { isStoreKey } from "../../ui/keys";
import { Page } from "../../ui/page";
import { Trouble } from "../../ui/trouble";
import { words } from "../../words";
import { FormSheet } from "../form-sheet/form-sheet";
import { changesOf } from "../form-sheet/judging";
import { PassingBar } from "../form-sheet/passing-bar";
import { RefusalSummary } from "../form-sheet/refusal-summary";
import { Starters } from "../form-sheet/starters";
import { STATE_WORDS } from "./asking";
import { Decisions } from "./decisions";
import { type FillingState, NEW, useFilling } from "./filling";
import { type Desk, deskQuery, type RecordView, recordQuery } from "./queries";
import { Standing } from "./standing";
import { Stranded, TwoVersions } from "./two-versions";

const t = words("records");

const LONG_FORM = 8; // fields, from which on the controls stand at the end too

export function RecordPage() {
  const { formKey = "", number = NEW } = useParams();
  const desk = useQuery(deskQuery(formKey));
  const record = useQuery({ ...recordQuery(formKey, number), enabled: number !== NEW });
  const error = desk.error ?? record.error;
  if (error)
    return (
      <Page title={t("record")} className="p-6">
        <Trouble error={error} />
      </Page>
    );
  if (!desk.data || (number !== NEW && !record.data)) return null;
  return <Filling key={`${formKey}-${number}`} desk={desk.data} record={record.data ?? null} />;
}

function Filling({ desk, record }: { desk: Desk; record: RecordView | null }) {
  const filling = useFilling(desk, record);
  const { readOnly, judgement, entries, touched } = filling;
  const mayApprove = useMay("approve");
  const title = record ? t("record_number", { number: record.number }) : t("new_record");
  function onKeyDown(event: KeyboardEvent) {
    if (isStoreKey(event) && !readOnly && !filling.isStoring) filling.press("save");
  }
  const bar = (
    <PassingBar
      judgement={judgement.data}
      fields={desk.fields}
      onPress={filling.press}
      busy={filling.isStoring}
    />
  );
  return (
    <Page
      title={title}
      of={desk.name}
      heading={null}
      className="mx-auto w-full max-w-4xl px-6 py-4"
      onKeyDown={onKeyDown}
    >
      <Head filling={filling} title={title} />
      {!record && !readOnly && <Starters starters={desk.sheet.starters} onBegin={filling.begin} />}
      {!readOnly && bar}
      {!readOnly && mayApprove && (
        <Button busy={filling.isStoring} onClick={() => filling.press("submit", true)}>
          {t("submit_and_approve_at_once")}
        </Button>
      )}
      {record && <Standing record={record} desk={desk} judgement={judgement.data} />}
      {record && readOnly && (
        <Decisions formKey={desk.key} record={record} onTakenBack={filling.follow} />
      )}
      <Obstacles filling={filling} />
      {/* Whoever begins a record begins to type. */}
      <div {...(!record && filling.mayWrite && { "data-focus": "first" })}>
        <FormSheet
          fields={desk.fields}
          sheet={desk.sheet}
          entries={entries}
          judgement={judgement.data}
          pressed={readOnly ? null : touched.pressed}
          readOnly={readOnly}
          passed={record?.reasons}
          held={record?.on_hold ?? false}
          {...changesOf(filling.change, touched.touch)}
        />
      </div>
      {!readOnly && desk.fields.length > LONG_FORM && (
        <section aria-label={t("at_the_end_of_the_form")}>{bar}</section>
      )}
    </Page>
  );
}

function Head({ filling, title }: { filling: FillingState; title: string }) {
  const { desk, record, readOnly, dirty } = filling;
  return (
    <div className="flex items-baseline gap-4">
      <h2 className="text-2xl">{title}</h2>
      <span className="text-muted">
        {t("judged_by_release_release", {
          record: String(Boolean(record)),
          STATE_WORDS: record ? STATE_WORDS[record.state] : "",
          release: desk.release,
        })}
      </span>
      {record && (
        <Button look="quiet" className="print:hidden" onClick={() => window.print()}>
          <Printer size={16} aria-hidden="true" /> {t("print")}
        </Button>
      )}
      {dirty && !readOnly && (
        <Button look="quiet" className="ml-auto" onClick={filling.discard}>
          {t("discard_my_changes")}
        </Button>
      )}
      {(!dirty || readOnly) && record && filling.mayWrite && (
        <span className="ml-auto">
          <Link to="../records/new" className="inline-block py-2 text-thistle hover:underline">
            {t("next_record")}
          </Link>
        </span>
      )}
    </div>
  );
}

/** Why it was not stored, what else is in its way, and how to get past that. */
function Obstacles({ filling }: { filling: FillingState }) {
  const { desk, record, judgement, touched, refusal, lift, corrected, overtaken } = filling;
  const mayLift = useMay("lift_hold");
  const error = corrected || overtaken ? null : (refusal ?? lift.error ?? judgement.error);
  return (
    <>
      {filling.refused && refusal instanceof Refused && touched.pressed ? (
        <RefusalSummary
          refused={refusal}
          judgement={judgement.isPlaceholderData ? undefined : judgement.data}
          pressed={touched.pressed}
          fields={desk.fields}
        />
      ) : (
        <Trouble error={error} />
      )}
      {record?.on_hold && mayLift && !filling.dirty && (
        <Button className="my-2" busy={lift.isPending} onClick={() => lift.mutate(record)}>
          {t("lift_the_hold")}
        </Button>
      )}
      {filling.stranded && record && (
        <Stranded
          formKey={desk.key}
          number={record.number}
          values={filling.typed.values}
          onDrop={filling.discard}
        />
      )}
      {overtaken && record && (
        <TwoVersions
          formKey={desk.key}
          number={record.number}
          values={filling.entries.values}
          opened={filling.opened}
          onSettled={filling.settle}
        />
      )}
    </>
  );
}
