// A message being written: when it goes, to whom, and what it says, with what becomes of it beside.

import { Trash2 } from "lucide-react";
import { type KeyboardEvent, useState } from "react";
import { Refused } from "../../api/client";
import { ENTRY_POINTS } from "../../api/lists";
import { Button } from "../../ui/button";
import { Line, Tick } from "../../ui/inputs";
import { useKept } from "../../ui/kept";
import { isStoreKey } from "../../ui/keys";
import { Trouble } from "../../ui/trouble";
import { words } from "../../words";
import type { FormView } from "../form/form";
import { Preview } from "./preview";
import {
  type Entry,
  type Message,
  type Template,
  useStoreTemplate,
  useTemplateReading,
} from "./queries";
import { Reads, Texts, WhenAndWhom } from "./template-parts";

const t = words("messages");

type Props = {
  form: FormView;
  template: Template | null;
  onClose: () => void;
  onTakeOut?: () => void;
};

const NEW: Entry = {
  name: "",
  enabled: true,
  clauses: null,
  message: {
    occasions: ["submitted"],
    entry_points: ENTRY_POINTS.filter((one) => one !== "import"),
    condition: "",
    to: [],
    copies: [],
    reply_to: "",
    subject: "{form}: record {record} was {act}",
    text: "",
  },
};

function entryOf({ name, enabled, reading }: Template): Entry {
  return { name, enabled, message: reading.message, clauses: reading.clauses };
}

export function TemplateEditor({ form, template, onClose, onTakeOut }: Props) {
  const stored = template ? entryOf(template) : NEW;
  const kept = useKept<Entry>(`message:${form.key}:${template?.id ?? "new"}`, stored);
  const entry = kept.value;
  const [revision, setRevision] = useState(template?.revision ?? 0);
  const reading = useTemplateReading(form.key, entry).data;
  const store = useStoreTemplate(form.key, () => {
    kept.close(stored);
    onClose();
  });
  const message = entry.message as Message;
  const set = (part: Partial<Entry>) => kept.change({ ...entry, ...part });
  const put = (part: Partial<Message>) => set({ message: { ...message, ...part } });
  const save = () => store.mutate({ entry, id: template?.id ?? null, revision });
  const newer = store.error instanceof Refused ? store.error.problem.revision : undefined;
  function onKeyDown(event: KeyboardEvent) {
    if (isStoreKey(event) && !store.isPending) save();
  }
  function leave() {
    kept.close(stored);
    onClose();
  }
  return (
    <section
      data-focus="first"
      aria-label={template ? t("message_name", { name: template.name }) : t("new_message")}
      onKeyDown={onKeyDown}
      className="my-3 border-l-4 border-thistle bg-leaf px-5 py-4"
    >
      <div className="grid gap-x-8 gap-y-4 xl:grid-cols-2">
        <div className="space-y-3">
          <Line
            label={t("name_of_the_message")}
            value={entry.name ?? ""}
            onChange={(name) => set({ name })}
          />
          <WhenAndWhom form={form} entry={entry} onChange={set} />
          <Line
            label={t("address_for_replies_optional")}
            value={message.reply_to}
            onChange={(reply_to) => put({ reply_to })}
          />
          <Texts entry={entry} offers={reading?.offers ?? []} onChange={set} />
          <Tick checked={entry.enabled ?? true} onChange={(enabled) => set({ enabled })}>
            {t("it_is_sent_otherwise_it_is_kept")}
          </Tick>
        </div>
        <Preview form={form} entry={entry} />
      </div>
      {reading && <Reads reading={reading} />}
      <div className="mt-3">
        <Trouble error={store.error} />
        {newer && (
          <Button className="mt-2" onClick={() => setRevision(newer)}>
            {t("keep_mine")}
          </Button>
        )}
        <div className="mt-3 flex items-center gap-2">
          <Button look="solid" busy={store.isPending} onClick={save}>
            {template ? t("save_message") : t("add_message")}
          </Button>
          <Button onClick={leave}>{kept.dirty ? t("discard_my_changes") : t("close")}</Button>
          {onTakeOut && (
            <Button look="quiet" className="ml-auto" onClick={onTakeOut}>
              <Trash2 size={16} aria-hidden="true" /> {t("remove_it")}
            </Button>
          )}
        </div>
      </div>
    </section>
  );
}
