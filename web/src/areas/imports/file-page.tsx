// One file of records: how it is read, what its first rows would come to, and what came of it.
import { Play, TestTubeDiagonal } from "lucide-react";
import { useRef, useState } from "react";
import { Link, useNavigate, useParams } from "react-router";
import { isUnderWay } from "../../api/jobs";
import { Button } from "../../ui/button";
import { counted } from "../../ui/counts";
import { Page } from "../../ui/page";
import { Trouble } from "../../ui/trouble";
import { writtenMoment, writtenNumber } from "../../ui/written";
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

const PAGE = 50;
const SHOWN_FIRST = 8;

export function FilePage() {
  const { formKey = "", fileId = "" } = useParams();
  const form = useForm().data;
  const file = useFile(formKey, Number(fileId));
  return (
    <Page
      title={file.data?.name ?? "File"}
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
          All files
        </Link>
      </p>
      <div className="flex flex-wrap items-baseline gap-x-4">
        <h2 className="text-2xl break-words">{file.name}</h2>
        <span className="mr-auto text-muted">
          {file.kind_label}, {sizeOf(file.size)}
          {seen && seen.rows > 0 && `, about ${counted(seen.rows, "row")}`}
          {`; brought by ${file.brought_by ?? "somebody"}, ${writtenMoment(file.created_at)}`}
        </span>
        {!atWork && (
          <Button look="quiet" busy={forget.isPending} onClick={() => forget.mutate(file.id)}>
            Forget it
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
              How it is read
            </h3>
            <Reading file={file} preview={seen} plan={plan} onChange={change} />
          </section>
          <section aria-labelledby="columns">
            <h3 id="columns" className="mt-6 text-lg">
              Where its columns go
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
              <TestTubeDiagonal size={16} aria-hidden="true" /> Try all rows, store nothing
            </Button>
            <Button
              look="solid"
              busy={run.isPending}
              disabled={preview.isError}
              onClick={() => run.mutate({ plan, dry: false })}
            >
              <Play size={16} aria-hidden="true" /> Bring them in
            </Button>
            <span className="text-muted">
              {nowhere(seen, plan)} Refused rows stay out, all others are stored. Running it again
              brings nothing twice.
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
  if (left === 0) return "Every column goes to a field.";
  return `${counted(left, "column")} ${left === 1 ? "goes" : "go"} nowhere.`;
}

/** `old`: what is shown is of before, while it is looked at again. */
function FirstRows({ preview, old }: { preview: Preview; old: boolean }) {
  const { looked_at, known, would_add, would_change, refused, left_out } = preview;
  const parts = [
    known > 0 && `${writtenNumber(known)} ${known === 1 ? "was" : "were"} brought already`,
    would_add > 0 && `${writtenNumber(would_add)} would be added`,
    would_change > 0 && `${writtenNumber(would_change)} would be changed`,
    refused.length > 0 && `${writtenNumber(refused.length)} would be refused`,
  ].filter(Boolean);
  return (
    <section aria-labelledby="first-rows">
      <h3 id="first-rows" className="mt-5 text-lg">
        What it would come to
      </h3>
      <p
        role="status"
        aria-label="What the first rows would come to"
        className={`mt-1 ${old ? "text-muted" : ""}`}
      >
        {old && "Checking them again… "}
        {looked_at === 0
          ? "There are heads only, and no row."
          : `Of the first ${counted(looked_at, "row")} ${parts.join(", ")}.`}
        {left_out > 0 &&
          ` In ${counted(left_out, "row")} something does not count, as it is not asked there.`}
      </p>
      {refused.length > 0 && (
        <RefusedRows label="First rows refused" rows={refused.slice(0, SHOWN_FIRST)} />
      )}
      {refused.length > SHOWN_FIRST && (
        <p className="mt-1 text-muted">
          {writtenNumber(refused.length - SHOWN_FIRST)} more of them. Try all rows to have every
          refused one in a file, with its reasons.
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
    <section aria-label="What came of it" className="mt-3 border-l-4 border-thistle pl-4">
      <p role="status" aria-label="What came of the rows">
        {file.came.dry && "Tried only, nothing is stored. "}
        {cameWords(file)}
        {file.came.left_out > 0 &&
          ` In ${counted(file.came.left_out, "row")} something does not count, as it is not asked there.`}
      </p>
      {rows.length > 0 && (
        <>
          <p className="mt-1">
            <FileLink to={`/api/v1/forms/${formKey}/record-files/${file.id}/refused-file`}>
              {`Have the refused rows with their reasons, as ${file.kind_label}`}
            </FileLink>
          </p>
          <RefusedRows label="Refused rows" rows={rows} />
          <div className="mt-2 flex gap-2">
            {offset > 0 && (
              <Button onClick={() => setOffset(Math.max(0, offset - PAGE))}>Rows before</Button>
            )}
            {offset + PAGE < total && (
              <Button onClick={() => setOffset(offset + PAGE)}>Rows after</Button>
            )}
          </div>
        </>
      )}
    </section>
  );
}
