// The records behind a count: each opened on the bench, the first kept as cases, all as a file.
import { useMutation, useQueryClient } from "@tanstack/react-query";
import { Download } from "lucide-react";
import { useState } from "react";
import { Link } from "react-router";
import { answer, client, type Schemas } from "../../api/client";
import { useMay } from "../../api/session";
import { Button } from "../../ui/button";
import { useNotify } from "../../ui/notices";
import { Trouble } from "../../ui/trouble";
import { writtenNumber } from "../../ui/written";
import { words } from "../../words";

const t = words("releases");

/** As many as are kept as cases at once. */
const KEPT_AT_ONCE = 20;

type Props = {
  formKey: string;
  what:
    | "newly_refused"
    | "newly_warned"
    | "no_longer_refused"
    | "lost"
    | "newly"
    | "no_longer"
    | "harder";
  of: string;
  found: Schemas["RecordCountView"];
  /** Out of date: then there is no file of it. */
  stale: boolean;
};

export function Behind({ formKey, what, of, found, stale }: Props) {
  const [open, setOpen] = useState(false);
  const mayTry = useMay("use_bench");
  const mayEdit = useMay("edit_draft");
  const keep = useKeepRecords(formKey);
  if (found.count === 0) return null;
  const first = found.numbers.slice(0, KEPT_AT_ONCE);
  const file = `/api/v1/forms/${formKey}/impact-file?what=${what}&of=${of}`;
  return (
    <details
      open={open}
      onToggle={(event) => setOpen(event.currentTarget.open)}
      className="text-sm"
    >
      <summary className="w-fit cursor-pointer text-thistle">{t("which")}</summary>
      {open && (
        <div className="border-l border-hairline pl-3">
          {mayTry && <p className="text-muted">{t("a_number_opens_its_record_on_the")}</p>}
          <p className="flex flex-wrap gap-x-3">
            {found.numbers.map((number) => (
              <Link
                key={number}
                to={`/forms/${formKey}/${mayTry ? "bench" : `records/${number}`}`}
                state={{ record: number }}
                className="min-w-6 py-0.5 underline"
              >
                {number}
              </Link>
            ))}
            {found.count > found.numbers.length &&
              t("and_writtennumber_more", {
                writtenNumber: writtenNumber(found.count - found.numbers.length),
              })}
          </p>
          <div className="mt-1 flex flex-wrap gap-2">
            {mayEdit && (
              <Button look="quiet" busy={keep.isPending} onClick={() => keep.mutate(first)}>
                {t("keep_count_records_as_cases", {
                  isCount: String(Boolean(found.count > first.length)),
                  count: first.length,
                  countShown: writtenNumber(first.length),
                })}
              </Button>
            )}
            {!stale && (
              <a
                href={file}
                download
                className="inline-flex min-h-8 items-center gap-1.5 px-3 py-1 text-thistle hover:bg-tint"
              >
                <Download size={14} aria-hidden="true" /> {t("all_with_reasons_as_a_table_csv")}
              </a>
            )}
          </div>
          <Trouble error={keep.error} />
        </div>
      )}
    </details>
  );
}

function useKeepRecords(formKey: string) {
  const queries = useQueryClient();
  const notify = useNotify();
  return useMutation({
    mutationFn: (numbers: number[]) =>
      answer(
        client.POST("/api/v1/forms/{form_key}/record-cases", {
          params: { path: { form_key: formKey } },
          body: { numbers, suite: t("stored_records") },
        }),
      ),
    onSuccess: (kept) => {
      queries.invalidateQueries();
      notify({
        text: t("kept_count_cases_in_the_suite_stored", {
          count: kept.length,
          countShown: writtenNumber(kept.length),
        }),
      });
    },
  });
}
