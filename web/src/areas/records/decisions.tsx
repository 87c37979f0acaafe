// What can be done with a record that was submitted: take it back, approve it, return it.
import { useMutation } from "@tanstack/react-query";
import { useState } from "react";
import { answer, client } from "../../api/client";
import { useMay } from "../../api/session";
import { Button } from "../../ui/button";
import { isStoreKey } from "../../ui/keys";
import { useNotify } from "../../ui/notices";
import { Trouble } from "../../ui/trouble";
import { words } from "../../words";
import { type RecordView, useColleagues, useDecide, useRefreshLists } from "./queries";

const t = words("records");

type Props = {
  formKey: string;
  record: RecordView;
  onTakenBack: (record: RecordView) => void;
  /** It has been approved or returned. */
  onDecided?: () => void;
  /** Whether to begin with the remark at once. */
  remarking?: boolean;
};

export function Decisions({ formKey, record, onTakenBack, onDecided, remarking = false }: Props) {
  const mayApprove = useMay("approve");
  const mayWrite = useMay("write_records");
  const notify = useNotify();
  const refresh = useRefreshLists();
  const decide = useDecide(formKey);
  const [sending, setSending] = useState(remarking);
  const takeBack = useMutation({
    mutationFn: () =>
      answer(
        client.POST("/api/v1/forms/{form_key}/records/{number}/take-back", {
          params: { path: { form_key: formKey, number: record.number } },
          body: { revision: record.revision },
        }),
      ),
    onSuccess: (stored) => {
      refresh();
      onTakenBack(stored);
      notify({ text: t("record_number_is_taken_back_go_on", { number: record.number }) });
    },
  });
  const refused = decide.data?.find(({ done }) => !done);
  function act(what: "approve" | "return", remark = "", to: string | null = null) {
    const { number, revision } = record;
    decide.mutate(
      { act: what, records: [{ number, revision }], remark, to },
      {
        onSuccess: ([came]) => {
          if (!came?.done) return;
          setSending(false);
          notify({
            text: t("record_number_is_returned", {
              number,
              isWhatApprove: String(Boolean(what === "approve")),
            }),
          });
          onDecided?.();
        },
      },
    );
  }
  const atRest = record.state === "submitted" || record.state === "approved";
  if (!atRest || (!mayApprove && !record.may_take_back)) return null;
  return (
    <section aria-label={t("what_becomes_of_it")} className="my-2 print:hidden">
      <div className="flex flex-wrap gap-2">
        {mayApprove && record.state === "submitted" && (
          <Button look="solid" busy={decide.isPending} onClick={() => act("approve")}>
            {t("approve")}
          </Button>
        )}
        {mayApprove && (
          <Button aria-expanded={sending} onClick={() => setSending(!sending)}>
            {t("return")}
          </Button>
        )}
        {mayWrite && record.may_take_back && (
          <Button busy={takeBack.isPending} onClick={() => takeBack.mutate()}>
            {t("take_it_back")}
          </Button>
        )}
      </div>
      {sending && (
        <SendingBack
          busy={decide.isPending}
          receiver={record.submitted_by ?? record.keeper}
          onSend={(remark, to) => act("return", remark, to)}
          onClose={() => setSending(false)}
        />
      )}
      {refused && (
        <div role="alert" className="mt-2 border-l-4 border-madder bg-tint px-3 py-2">
          <p className="font-semibold">{refused.why_not}</p>
          <p>{refused.remedy}</p>
        </div>
      )}
      <Trouble error={decide.error ?? takeBack.error} />
    </section>
  );
}

type SendingProps = {
  busy: boolean;
  /** Who gets it unless somebody else is chosen. */
  receiver: string | null;
  onSend: (remark: string, to: string | null) => void;
  onClose: () => void;
};

/** The remark with which records go back, and to whom. */
export function SendingBack({ busy, receiver, onSend, onClose }: SendingProps) {
  const [remark, setRemark] = useState("");
  const [to, setTo] = useState("");
  const people = useColleagues().data?.filter((one) => one.may_write) ?? [];
  const send = () => remark.trim() !== "" && !busy && onSend(remark, to || null);
  return (
    // biome-ignore lint/a11y/noStaticElementInteractions: the keys work wherever the focus is inside
    <div
      className="mt-2 border-l-4 border-thistle bg-leaf px-4 py-3"
      onKeyDown={(event) => {
        if (isStoreKey(event)) {
          event.stopPropagation();
          send();
        }
        if (event.key === "Escape") onClose();
      }}
    >
      <label className="block">
        {t("what_is_to_be_corrected")}
        <textarea
          data-focus="self"
          className="line-input mt-1 block w-full"
          rows={3}
          maxLength={2000}
          value={remark}
          onChange={(event) => setRemark(event.target.value)}
        />
      </label>
      <div className="mt-2 flex flex-wrap items-center gap-3">
        <label className="text-muted">
          {t("to")}{" "}
          <select
            className="line-input text-ink"
            value={to}
            onChange={(event) => setTo(event.target.value)}
          >
            <option value="">{receiver ?? t("whoever_submitted_it")}</option>
            {people
              .filter((one) => one.shown_name !== receiver)
              .map((one) => (
                <option key={one.name} value={one.name}>
                  {one.shown_name}
                </option>
              ))}
          </select>
        </label>
        <Button look="solid" busy={busy || remark.trim() === ""} onClick={send}>
          {t("return_2")}
        </Button>
        <Button look="quiet" onClick={onClose}>
          {t("cancel")}
        </Button>
      </div>
    </div>
  );
}
