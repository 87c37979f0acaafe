// The files of records that came in, and a place to bring one.
import { FileUp } from "lucide-react";
import { type DragEvent, useState } from "react";
import { Link, useNavigate, useParams } from "react-router";
import { Refused } from "../../api/client";
import { Button } from "../../ui/button";
import { Page } from "../../ui/page";
import { Trouble } from "../../ui/trouble";
import { writtenMoment } from "../../ui/written";
import { words } from "../../words";
import { useForm } from "../form/form";
import { JobBar } from "../form/job-bar";
import { useBringFile, useFiles } from "./queries";
import { cameWords, sizeOf } from "./words";

const t = words("imports");

const TAKEN = ".csv,.tsv,.txt,.xlsx,.jsonl,.ndjson";

export function FilesPage() {
  const { formKey = "" } = useParams();
  const form = useForm().data;
  const files = useFiles(formKey);
  const navigate = useNavigate();
  const bring = useBringFile(formKey, (file) => navigate(String(file.id)));
  const brought = bring.variables;
  return (
    <Page
      title={t("imports")}
      of={form?.name}
      heading={<h2 className="text-2xl">{t("records_from_files")}</h2>}
      className="mx-auto w-full max-w-5xl px-6 py-5"
    >
      <Bring busy={bring.isPending} onFile={(file) => bring.mutate({ file })} />
      <Trouble error={bring.error ?? files.error} />
      {brought && isWrongEncoding(bring.error) && (
        <p className="mt-2">
          <Button
            busy={bring.isPending}
            onClick={() => bring.mutate({ file: brought.file, encoding: "windows-1252" })}
          >
            {t("read_name_as_western_european_windows_1252", { name: brought.file.name })}
          </Button>
        </p>
      )}
      {files.data?.length === 0 && (
        <p className="border-t border-hairline py-6 text-muted">
          {t("no_file_has_come_in_yet_bring")}
        </p>
      )}
      {files.data && files.data.length > 0 && (
        <table className="mt-4 w-full border-t border-b border-edge">
          <thead className="text-left text-muted">
            <tr className="border-b border-hairline *:px-2 *:py-1.5 *:font-normal">
              <th scope="col">{t("file")}</th>
              <th scope="col">{t("brought")}</th>
              <th scope="col">{t("what_came_of_it")}</th>
            </tr>
          </thead>
          <tbody>
            {files.data.map((file) => (
              <tr key={file.id} className="border-t border-hairline align-top *:px-2 *:py-1.5">
                <th scope="row" className="text-left font-normal">
                  <Link to={String(file.id)} className="text-thistle hover:underline">
                    {file.name}
                  </Link>
                  <span className="block text-sm text-muted">
                    {file.kind_label}, {sizeOf(file.size)}
                  </span>
                </th>
                <td>
                  {file.brought_by ?? t("somebody")}
                  <span className="block text-sm text-muted">{writtenMoment(file.created_at)}</span>
                </td>
                <td>
                  {cameWords(file) || <span className="text-muted">{t("nothing_done_yet")}</span>}
                  <JobBar job={file.job} what="row" />
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
    </Page>
  );
}

const isWrongEncoding = (error: unknown) =>
  error instanceof Refused && error.problem.type.endsWith(":wrong-encoding");

function Bring({ busy, onFile }: { busy: boolean; onFile: (file: File) => void }) {
  const [over, setOver] = useState(false);
  function drop(event: DragEvent) {
    event.preventDefault();
    setOver(false);
    const file = event.dataTransfer.files[0];
    if (file && !busy) onFile(file);
  }
  return (
    // biome-ignore lint/a11y/noStaticElementInteractions: the file can be chosen by key inside
    <div
      className={`mt-3 flex flex-wrap items-center gap-x-4 gap-y-2 border border-dashed px-4 py-4 ${over ? "border-thistle bg-tint" : "border-edge"}`}
      onDragOver={(event) => {
        event.preventDefault();
        setOver(true);
      }}
      onDragLeave={() => setOver(false)}
      onDrop={drop}
    >
      <FileUp size={20} aria-hidden="true" className="text-muted" />
      <label className="flex flex-wrap items-center gap-3">
        {t("bring_a_file_with_records")}
        <input
          type="file"
          accept={TAKEN}
          disabled={busy}
          className="file:mr-3 file:cursor-pointer file:rounded-xs file:border file:border-edge file:bg-leaf file:px-3 file:py-1"
          onChange={(event) => {
            const file = event.target.files?.[0];
            if (file) onFile(file);
            event.target.value = "";
          }}
        />
      </label>
      <span role="status" className="text-muted">
        {busy ? t("reading_the_file") : t("csv_xlsx_or_json_lines_it_can")}
      </span>
    </div>
  );
}
