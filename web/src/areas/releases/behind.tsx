// The records behind a count: each opened on the bench, the first kept as cases, all as a file.
import { useMutation, useQueryClient } from "@tanstack/react-query";
import { Download } from "lucide-react";
import { useState } from "react";
import { Link } from "react-router";
import { answer, client, type Schemas } from "../../api/client";
import { useMay } from "../../api/session";
import { Button } from "../../ui/button";
import { counted } from "../../ui/counts";
import { useNotify } from "../../ui/notices";
import { Trouble } from "../../ui/trouble";
import { writtenNumber } from "../../ui/written";

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
      <summary className="w-fit cursor-pointer text-thistle">which</summary>
      {open && (
        <div className="border-l border-hairline pl-3">
          {mayTry && (
            <p className="text-muted">
              A number opens its record on the bench, as a change to the stored record.
            </p>
          )}
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
              `and ${writtenNumber(found.count - found.numbers.length)} more`}
          </p>
          <div className="mt-1 flex flex-wrap gap-2">
            {mayEdit && (
              <Button look="quiet" busy={keep.isPending} onClick={() => keep.mutate(first)}>
                Keep {found.count > first.length && "the first "}
                {counted(first.length, "record")} as {first.length === 1 ? "a case" : "cases"}
              </Button>
            )}
            {!stale && (
              <a
                href={file}
                download
                className="inline-flex min-h-8 items-center gap-1.5 px-3 py-1 text-thistle hover:bg-tint"
              >
                <Download size={14} aria-hidden="true" /> All with reasons, as a table (CSV)
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
          body: { numbers, suite: "Stored records" },
        }),
      ),
    onSuccess: (kept) => {
      queries.invalidateQueries();
      notify({ text: `Kept ${counted(kept.length, "case")} in the suite “Stored records”.` });
    },
  });
}
