// What is done with several records at once, and what came of each.
import { Download } from "lucide-react";
import { useState } from "react";
import type { Schemas } from "../../api/client";
import { useMay } from "../../api/session";
import { Button } from "../../ui/button";
import { counted } from "../../ui/counts";
import { Trouble } from "../../ui/trouble";
import { SendingBack } from "./decisions";
import { useDecide } from "./queries";

type Summary = Schemas["RecordSummary"];
/** As many as the service decides on in one call. */
export const MOST_CHOSEN = 200;

type Props = {
  formKey: string;
  chosen: readonly Summary[];
  /** Where the file with the chosen ones is. */
  file: string;
  onNone: () => void;
};

export function Chosen({ formKey, chosen, file, onNone }: Props) {
  const mayApprove = useMay("approve");
  const decide = useDecide(formKey);
  const [sending, setSending] = useState(false);
  function act(what: "approve" | "send_back", remark = "", to: string | null = null) {
    const records = chosen.map(({ number, version }) => ({ number, version }));
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
        {decide.data && <Came came={decide.data} />}
      </>
    );
  return (
    <section
      aria-label="The chosen records"
      className="my-3 border-l-4 border-thistle bg-leaf px-4 py-2"
    >
      <div className="flex flex-wrap items-center gap-3">
        <span>{counted(chosen.length, "record")} chosen</span>
        {mayApprove && (
          <>
            <Button look="solid" busy={decide.isPending} onClick={() => act("approve")}>
              Approve them
            </Button>
            <Button aria-expanded={sending} onClick={() => setSending(!sending)}>
              Send them back…
            </Button>
          </>
        )}
        <FileLink to={file}>Export them as CSV</FileLink>
        <Button look="quiet" onClick={onNone}>
          Choose none
        </Button>
      </div>
      {sending && (
        <SendingBack
          busy={decide.isPending}
          receiver={null}
          onSend={(remark, to) => act("send_back", remark, to)}
          onClose={() => setSending(false)}
        />
      )}
      <Trouble error={decide.error} />
    </section>
  );
}

export function FileLink({ to, children }: { to: string; children: string }) {
  return (
    <a href={to} download className="inline-flex items-center gap-1.5 text-thistle hover:underline">
      <Download size={15} aria-hidden="true" /> {children}
    </a>
  );
}

/** What came of each that was decided on; who was refused, and why. */
export function Came({ came }: { came: Schemas["DecidedView"][] }) {
  const refused = came.filter(({ done }) => !done);
  const done = came.length - refused.length;
  return (
    <div role="status" className="mt-3 border-t border-hairline pt-2">
      {done > 0 && <p className="text-moss">{counted(done, "record")} went through.</p>}
      {refused.map(({ number, why_not, mend }) => (
        <p key={number} className="mt-1">
          <span className="text-madder">{why_not}</span> <span className="text-muted">{mend}</span>
        </p>
      ))}
    </div>
  );
}
