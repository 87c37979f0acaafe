// The messages of a form: what is written to whom when something becomes of a record.
import { Plus } from "lucide-react";
import { useState } from "react";
import { Link } from "react-router";
import { Button } from "../../ui/button";
import type { Option } from "../../ui/choice-part";
import { useNotify } from "../../ui/notices";
import { Page } from "../../ui/page";
import { Sentence } from "../../ui/sentence";
import { Trouble } from "../../ui/trouble";
import { writtenMoment } from "../../ui/written";
import { words } from "../../words";
import { type FormView, useForm } from "../form/form";
import { type Template, useRemoveTemplate, useStoreTemplate, useTemplates } from "./queries";
import { receiverWords, useReceivers } from "./receivers";
import { TemplateEditor } from "./template-editor";
import { anyOccasion } from "./words";

const t = words("messages");

export function MessagesPage() {
  const form = useForm().data;
  return form ? <MessagesOf form={form} /> : null;
}

function MessagesOf({ form }: { form: FormView }) {
  const formKey = form.key;
  const receivers = useReceivers(form);
  const templates = useTemplates(formKey);
  const [open, setOpen] = useState<number | "new" | null>(null);
  const close = () => setOpen(null);
  return (
    <Page
      title={t("messages")}
      of={form.name}
      heading={<h2 className="text-2xl">{t("messages")}</h2>}
      className="mx-auto w-full max-w-6xl px-6 py-5"
    >
      <div className="mt-1 flex items-baseline gap-4">
        <p className="mr-auto max-w-3xl">
          {t("sent_when_a_record_changes_mail_stays")}{" "}
          <Link to={`/outbox?form=${formKey}`} className="text-thistle underline">
            {t("what_went_out")}
          </Link>
        </p>
        {open !== "new" && (
          <Button look="solid" onClick={() => setOpen("new")}>
            <Plus size={16} aria-hidden="true" /> {t("write_a_message")}
          </Button>
        )}
      </div>
      <Trouble error={templates.error} />
      {open === "new" && <TemplateEditor form={form} template={null} onClose={close} />}
      {templates.data?.length === 0 && open !== "new" && (
        <p className="mt-4 border-t border-hairline py-4 text-muted">
          {t("nobody_is_told_anything_yet_write_a")}
        </p>
      )}
      <ul className="mt-4 border-t border-edge">
        {templates.data?.map((template) => (
          <li key={template.id} className="border-b border-hairline">
            {open === template.id ? (
              <Opened form={form} template={template} onClose={close} />
            ) : (
              <Row template={template} receivers={receivers} onOpen={() => setOpen(template.id)} />
            )}
          </li>
        ))}
      </ul>
    </Page>
  );
}

type OpenedProps = { form: FormView; template: Template; onClose: () => void };

function Opened({ form, template, onClose }: OpenedProps) {
  const notify = useNotify();
  const again = useStoreTemplate(form.key, () => {});
  const remove = useRemoveTemplate(form.key, ({ name, enabled, reading }) => {
    onClose();
    const entry = { name, enabled, message: reading.message, clauses: null };
    notify({
      text: t("name_is_removed", { name }),
      undo: () => again.mutate({ entry, id: null, revision: 0 }),
    });
  });
  return (
    <>
      <Trouble error={remove.error} />
      <TemplateEditor
        form={form}
        template={template}
        onClose={onClose}
        onTakeOut={() => remove.mutate(template)}
      />
    </>
  );
}

type RowProps = { template: Template; receivers: Option[]; onOpen: () => void };

function Row({ template, receivers, onOpen }: RowProps) {
  const { name, enabled, reading, changed_at, changed_by } = template;
  const { occasions, subject, to } = reading.message;
  return (
    <div className="flex items-start gap-4 py-3">
      <div className="min-w-0 grow">
        <h3 className="font-serif text-lg">
          <button type="button" className="text-left hover:text-thistle" onClick={onOpen}>
            {name}
          </button>
          {!enabled && <span className="ml-2 text-base text-muted">{t("not_sent")}</span>}
        </h3>
        <p>
          {t("when_a_record_has_been_occasions", { occasions: anyOccasion(occasions) })}
          {reading.sentence.length > 0 && (
            <>
              {" "}
              {t("and")} <Sentence segments={reading.sentence} />
            </>
          )}
          {t("to")} {receiverWords(to, receivers) || t("nobody")}: “{subject}”
        </p>
        {[...reading.problems, ...reading.not_yet].length > 0 && enabled && (
          <p className="text-madder">
            {[...reading.problems, ...reading.not_yet].map(({ message }) => message).join(" ")}
          </p>
        )}
        {reading.troubles.length > 0 && <p className="text-ochre">{reading.troubles.join(" ")}</p>}
        <p className="text-sm text-muted">
          {changed_by ? `${changed_by}, ` : ""}
          {writtenMoment(changed_at)}
        </p>
      </div>
      <Button look="quiet" aria-label={t("open_name", { name })} onClick={onOpen}>
        {t("open")}
      </Button>
    </div>
  );
}
