// What is done with several records at once, and what came of each.
import { Download } from "lucide-react";
import { useState } from "react";
import type { Schemas } from "../../api/client";
import { useMay } from "../../api/session";
import { Button } from "../../ui/button";
import { Tick } from "../../ui/inputs";
import { Trouble } from "../../ui/trouble";
import { writtenNumber } from "../../ui/written";
import { words } from "../../words";
import type { InFile } from "./asking";
import { SendingBack } from "./decisions";
import { useDecide } from "./queries";

const t = words("records");

type Summary = Schemas["RecordSummary"];
/** As many as the service decides on in one call. */
export const MOST_CHOSEN = 200;

type Props = {
  formKey: string;
  chosen: readonly Summary[];
  /** Where a file with the chosen ones is. */
  fileOf: (how: InFile) => string;
  onNone: () => void;
};

export function Chosen({ formKey, chosen, fileOf, onNone }: Props) {
  const mayApprove = useMay("approve");
  const decide = useDecide(formKey);
  const [sending, setSending] = useState(false);
  function act(what: "approve" | "return", remark = "", to: string | null = null) {
    const records = chosen.map(({ number, revision }) => ({ number, revision }));
    decide.mutate(
      { act: what, records, remark, to },
      {
        onSuccess: () => {
          setSending(false);
          onNone();
        },
      },
    );
  }
  if (chosen.length === 0)
    return (
      <>
        <Trouble error={decide.error} />
        {decide.data && <Came came={decide.data} act={decide.variables.act} />}
      </>
    );
  return (
    <section
      aria-label={t("the_chosen_records")}
      className="my-3 border-l-4 border-thistle bg-leaf px-4 py-2"
    >
      <div className="flex flex-wrap items-center gap-3">
        <span>
          {t("count_records_chosen", {
            count: chosen.length,
            countShown: writtenNumber(chosen.length),
          })}
        </span>
        {mayApprove && (
          <>
            <Button look="solid" busy={decide.isPending} onClick={() => act("approve")}>
              {t("approve_them")}
            </Button>
            <Button aria-expanded={sending} onClick={() => setSending(!sending)}>
              {t("return_them")}
            </Button>
          </>
        )}
        <Export what={t("export_them")} fileOf={fileOf} />
        <Button look="quiet" onClick={onNone}>
          {t("choose_none")}
        </Button>
      </div>
      {sending && (
        <SendingBack
          busy={decide.isPending}
          receiver={null}
          onSend={(remark, to) => act("return", remark, to)}
          onClose={() => setSending(false)}
        />
      )}
      <Trouble error={decide.error} />
    </section>
  );
}

const KINDS = [
  ["csv", "CSV"],
  ["xlsx", "XLSX"],
  ["jsonl", t("json_lines")],
] as const;

/** Records as a file of one's choice, with labels or with keys and codes. */
export function Export({ what, fileOf }: { what: string; fileOf: (how: InFile) => string }) {
  const [codes, setCodes] = useState(false);
  return (
    <span className="inline-flex flex-wrap items-center gap-x-3">
      <span className="text-muted">{t("what_as", { what })}</span>
      {KINDS.map(([kind, name]) => (
        <FileLink
          key={kind}
          to={fileOf({ kind, naming: codes ? "codes" : "labels" })}
          label={t("what_as_name", { what, name })}
        >
          {name}
        </FileLink>
      ))}
      <Tick checked={codes} onChange={setCodes}>
        {t("with_keys_and_codes")}
      </Tick>
    </span>
  );
}

type LinkProps = { to: string; label?: string; children: string };

export function FileLink({ to, label, children }: LinkProps) {
  return (
    <a
      href={to}
      download
      aria-label={label}
      className="inline-flex items-center gap-1.5 text-thistle hover:underline"
    >
      <Download size={15} aria-hidden="true" /> {children}
    </a>
  );
}

type Decided = { came: Schemas["ApprovalResultView"][]; act: Schemas["ApprovalBody"]["act"] };

/** What came of each that was decided on; who was refused, and why. */
export function Came({ came, act }: Decided) {
  const refused = came.filter(({ done }) => !done);
  const done = came.length - refused.length;
  return (
    <div role="status" className="mt-3 border-t border-hairline pt-2">
      {done > 0 && (
        <p className="text-moss">
          {t("records_decided", { count: done, shown: writtenNumber(done), act })}
        </p>
      )}
      {refused.map(({ number, why_not, remedy }) => (
        <p key={number} className="mt-1">
          <span className="text-madder">{why_not}</span>{" "}
          <span className="text-muted">{remedy}</span>
        </p>
      ))}
    </div>
  );
}
