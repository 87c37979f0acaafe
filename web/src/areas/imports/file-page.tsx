// One file of records: how it is read, what its first rows would come to, and what came of it.
import { Play, TestTubeDiagonal } from "lucide-react";
import { useRef, useState } from "react";
import { Link, useNavigate, useParams } from "react-router";
import { isUnderWay } from "../../api/jobs";
import { Button } from "../../ui/button";
import { Page } from "../../ui/page";
import { Trouble } from "../../ui/trouble";
import { writtenMoment, writtenNumber } from "../../ui/written";
import { words } from "../../words";
import { useForm } from "../form/form";
import { JobBar } from "../form/job-bar";
import { FileLink } from "../records/chosen";
import { Columns } from "./columns";
import {
  type Plan,
  type Preview,
  type RecordFile,
  useFile,
  useForgetFile,
  usePreview,
  useRefused,
  useRunFile,
  useStopFile,
} from "./queries";
import { Reading } from "./reading";
import { RefusedRows } from "./refused-rows";
import { cameWords, sizeOf } from "./words";

const t = words("imports");

const PAGE = 50;
const SHOWN_FIRST = 8;

export function FilePage() {
  const { formKey = "", fileId = "" } = useParams();
  const form = useForm().data;
  const file = useFile(formKey, Number(fileId));
  return (
    <Page
      title={file.data?.name ?? t("file")}
      of={form?.name}
      {...(file.data && { heading: null })}
      className="mx-auto w-full max-w-5xl px-6 py-5"
    >
      <Trouble error={file.error} />
      {file.data && <Opened key={file.data.id} formKey={formKey} file={file.data} />}
    </Page>
  );
}

function Opened({ formKey, file }: { formKey: string; file: RecordFile }) {
  const [plan, setPlan] = useState<Plan>(file.plan);
  const preview = usePreview(formKey, file, plan);
  // Where a plan cannot be followed, what was seen last stays, so that it can be corrected.
  const last = useRef<Preview>(undefined);
  if (preview.data) last.current = preview.data;
  const seen = preview.data ?? last.current;
  const run = useRunFile(formKey, file.id);
  const stop = useStopFile(formKey, file.id);
  const navigate = useNavigate();
  const forget = useForgetFile(formKey, () => navigate(`/forms/${formKey}/imports`));
  const atWork = isUnderWay(file.job);
  const change = (part: Partial<Plan>) => setPlan({ ...plan, ...part });
  return (
    <>
      <p>
        <Link to=".." relative="path" className="text-thistle hover:underline">
          {t("all_files")}
        </Link>
      </p>
      <div className="flex flex-wrap items-baseline gap-x-4">
        <h2 className="text-2xl break-words">{file.name}</h2>
        <span className="mr-auto text-muted">
          {t("file_line", {
            kind: file.kind_label,
            size: sizeOf(file.size),
            rows: seen?.rows ?? 0,
            rowsShown: writtenNumber(seen?.rows ?? 0),
            by: file.brought_by ?? t("somebody"),
            at: writtenMoment(file.created_at),
          })}
        </span>
        {!atWork && (
          <Button look="quiet" busy={forget.isPending} onClick={() => forget.mutate(file.id)}>
            {t("forget_it")}
          </Button>
        )}
      </div>
      <CameOfIt formKey={formKey} file={file} />
      <JobBar job={file.job} what="row" stopping={stop.isPending} onStop={() => stop.mutate()} />
      <Trouble error={run.error ?? stop.error ?? forget.error ?? preview.error} />
      {seen && !atWork && (
        <>
          <section aria-labelledby="reading">
            <h3 id="reading" className="mt-5 text-lg">
              {t("how_it_is_read")}
            </h3>
            <Reading file={file} preview={seen} plan={plan} onChange={change} />
          </section>
          <section aria-labelledby="columns">
            <h3 id="columns" className="mt-6 text-lg">
              {t("where_its_columns_go")}
            </h3>
            <Columns preview={seen} plan={plan} onChange={(columns) => change({ columns })} />
          </section>
          {preview.data && <FirstRows preview={preview.data} old={preview.isPlaceholderData} />}
          <div className="mt-4 flex flex-wrap items-center gap-3">
            <Button
              busy={run.isPending}
              disabled={preview.isError}
              onClick={() => run.mutate({ plan, dry: true })}
            >
              <TestTubeDiagonal size={16} aria-hidden="true" /> {t("try_all_rows_store_nothing")}
            </Button>
            <Button
              look="solid"
              busy={run.isPending}
              disabled={preview.isError}
              onClick={() => run.mutate({ plan, dry: false })}
            >
              <Play size={16} aria-hidden="true" /> {t("bring_them_in")}
            </Button>
            <span className="text-muted">
              {t("seen_refused_rows_stay_out_all_others", { seen: nowhere(seen, plan) })}
            </span>
          </div>
        </>
      )}
    </>
  );
}

/** “2 columns go nowhere.” */
function nowhere({ columns }: Preview, plan: Plan) {
  const left = columns.filter(({ head }) => !plan.columns[head]).length;
  if (left === 0) return t("every_column_goes_to_a_field");
  return t("left_columns_go_nowhere", { left, leftShown: writtenNumber(left) });
}

/** `old`: what is shown is of before, while it is looked at again. */
function FirstRows({ preview, old }: { preview: Preview; old: boolean }) {
  const { looked_at, known, would_add, would_change, refused, left_out } = preview;
  const parts = [
    known > 0 && t("known_were_brought_already", { known: writtenNumber(known), known2: known }),
    would_add > 0 && t("would_add_would_be_added", { would_add: writtenNumber(would_add) }),
    would_change > 0 &&
      t("would_change_would_be_changed", { would_change: writtenNumber(would_change) }),
    refused.length > 0 && t("length_would_be_refused", { length: writtenNumber(refused.length) }),
  ].filter(Boolean);
  return (
    <section aria-labelledby="first-rows">
      <h3 id="first-rows" className="mt-5 text-lg">
        {t("what_it_would_come_to")}
      </h3>
      <p
        role="status"
        aria-label={t("what_the_first_rows_would_come_to")}
        className={`mt-1 ${old ? "text-muted" : ""}`}
      >
        {old && <>{t("checking_them_again")} </>}
        {looked_at === 0
          ? t("there_are_heads_only_and_no_row")
          : t("of_the_first_looked_at_rows_join", {
              looked_at,
              looked_atShown: writtenNumber(looked_at),
              join: parts.join(", "),
            })}
        {left_out > 0 && <LeftOut rows={left_out} />}
      </p>
      {refused.length > 0 && (
        <RefusedRows label={t("first_rows_refused")} rows={refused.slice(0, SHOWN_FIRST)} />
      )}
      {refused.length > SHOWN_FIRST && (
        <p className="mt-1 text-muted">
          {t("writtennumber_more_of_them_try_all_rows", {
            more: writtenNumber(refused.length - SHOWN_FIRST),
          })}
        </p>
      )}
    </section>
  );
}

function CameOfIt({ formKey, file }: { formKey: string; file: RecordFile }) {
  const [offset, setOffset] = useState(0);
  const refused = useRefused(formKey, file, offset);
  if (!file.came || isUnderWay(file.job)) return null;
  const rows = refused.data?.rows ?? [];
  const total = refused.data?.total ?? 0;
  return (
    <section aria-label={t("what_came_of_it")} className="mt-3 border-l-4 border-thistle pl-4">
      <p role="status" aria-label={t("what_came_of_the_rows")}>
        {file.came.dry && <>{t("tried_only_nothing_is_stored")} </>}
        {cameWords(file)}
        {file.came.left_out > 0 && <LeftOut rows={file.came.left_out} />}
      </p>
      {rows.length > 0 && (
        <>
          <p className="mt-1">
            <FileLink to={`/api/v1/forms/${formKey}/record-files/${file.id}/refused-file`}>
              {t("have_the_refused_rows_with_their_reasons", { kind_label: file.kind_label })}
            </FileLink>
          </p>
          <RefusedRows label={t("refused_rows")} rows={rows} />
          <div className="mt-2 flex gap-2">
            {offset > 0 && (
              <Button onClick={() => setOffset(Math.max(0, offset - PAGE))}>
                {t("rows_before")}
              </Button>
            )}
            {offset + PAGE < total && (
              <Button onClick={() => setOffset(offset + PAGE)}>{t("rows_after")}</Button>
            )}
          </div>
        </>
      )}
    </section>
  );
}

/** In how many rows something was left out. */
function LeftOut({ rows }: { rows: number }) {
  return (
    <>
      {" "}
      {t("in_left_out_rows_something_does_not", {
        left_out: rows,
        left_outShown: writtenNumber(rows),
      })}
    </>
  );
}
