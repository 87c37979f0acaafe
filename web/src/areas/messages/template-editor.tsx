// A message being written: when it goes, to whom, and what it says, with what becomes of it beside.

import { Plus, Trash2 } from "lucide-react";
import { type KeyboardEvent, useState } from "react";
import { Refused } from "../../api/client";
import { ENTRY_POINTS } from "../../api/lists";
import { Button } from "../../ui/button";
import { useFocusedFirst } from "../../ui/focus";
import { Line, Tick } from "../../ui/inputs";
import { useKept } from "../../ui/kept";
import { isStoreKey } from "../../ui/keys";
import { ListInput } from "../../ui/list-input";
import { ProblemList, Trouble } from "../../ui/trouble";
import { PlaceMenu, usePutIn } from "../../ui/worded";
import { words } from "../../words";
import { WAYS } from "../form/entry-points";
import type { FormView } from "../form/form";
import { blankClause, group } from "../rules/clauses";
import { WrittenCondition } from "../rules/written-condition";
import { Preview } from "./preview";
import {
  type Entry,
  type Message,
  type Template,
  useStoreTemplate,
  useTemplateReading,
} from "./queries";
import { ReceiversPart, useReceivers } from "./receivers";
import { OCCASIONS } from "./words";

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

function eninputOf({ name, enabled, reading }: Template): Entry {
  return { name, enabled, message: reading.message, clauses: reading.clauses };
}

export function TemplateEditor({ form, template, onClose, onTakeOut }: Props) {
  const stored = template ? eninputOf(template) : NEW;
  const kept = useKept<Entry>(`message:${form.key}:${template?.id ?? "new"}`, stored);
  const entry = kept.value;
  const [revision, setRevision] = useState(template?.revision ?? 0);
  const receivers = useReceivers(form);
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
  const [asking, setAsking] = useState(false);
  const asked = asking || message.condition !== "" || entry.clauses !== null;
  const first = form.fields[0];
  const subject = usePutIn<HTMLInputElement>(message.subject, (to) => put({ subject: to }));
  const text = usePutIn<HTMLTextAreaElement>(message.text, (to) => put({ text: to }));
  const offers = reading?.offers ?? [];
  function onKeyDown(event: KeyboardEvent) {
    if (isStoreKey(event) && !store.isPending) save();
  }
  function leave() {
    kept.close(stored);
    onClose();
  }
  return (
    <section
      ref={useFocusedFirst<HTMLElement>()}
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
          <p className="font-serif text-[1.2rem] leading-9">
            {t("when_a_record_has_been")}{" "}
            <ListInput
              label={t("occasions")}
              empty={t("what")}
              values={message.occasions}
              options={OCCASIONS}
              onChange={(to) => put({ occasions: to as Message["occasions"] })}
            />{" "}
            <ListInput
              label={t("entry_points")}
              empty={t("at_which_entry_point")}
              values={message.entry_points}
              options={WAYS}
              shows={entryPointWords(message.entry_points)}
              onChange={(to) => put({ entry_points: to as Message["entry_points"] })}
            />
            {t("write_to")}{" "}
            <ReceiversPart
              label={t("receivers")}
              empty={t("whom")}
              options={receivers}
              receivers={message.to}
              onChange={(to) => put({ to })}
            />{" "}
            {t("with_copies_to")}{" "}
            <ReceiversPart
              label={t("copies")}
              empty={t("nobody")}
              options={receivers}
              receivers={message.copies}
              onChange={(copies) => put({ copies })}
            />
            {asked ? "," : "."}
          </p>
          {asked ? (
            <WrittenCondition
              form={form}
              written={{ condition: message.condition, clauses: entry.clauses ?? null }}
              begin={t("but_only_when")}
              onChange={({ condition, clauses }) =>
                set({ clauses, message: { ...message, condition } })
              }
              onNone={() => {
                setAsking(false);
                set({ clauses: null, message: { ...message, condition: "" } });
              }}
            />
          ) : (
            first && (
              <Button
                look="quiet"
                onClick={() => {
                  setAsking(true);
                  set({ clauses: group("and", [blankClause(first, "value")]) });
                }}
              >
                <Plus size={16} aria-hidden="true" /> {t("only_when")}
              </Button>
            )
          )}
          <Line
            label={t("address_for_replies_optional")}
            value={message.reply_to}
            onChange={(reply_to) => put({ reply_to })}
          />
          <label className="block">
            <span className="text-muted">{t("subject")}</span>
            <input
              ref={subject.box}
              className="line-input mt-1 block w-full"
              value={message.subject}
              spellCheck
              onChange={(event) => put({ subject: event.target.value })}
            />
          </label>
          <PlaceMenu
            label={t("put_a_value_into_the_subject")}
            offers={offers.filter(inALine)}
            onChoose={subject.putIn}
          />
          <label className="block">
            <span className="text-muted">{t("text")}</span>
            <textarea
              ref={text.box}
              className="line-input mt-1 block w-full"
              rows={7}
              value={message.text}
              spellCheck
              placeholder={t("record_record_was_act_by_person_answers")}
              onChange={(event) => put({ text: event.target.value })}
            />
          </label>
          <PlaceMenu label={t("put_a_value_into_the_text")} offers={offers} onChoose={text.putIn} />
          <Tick checked={entry.enabled ?? true} onChange={(enabled) => set({ enabled })}>
            {t("it_is_sent_otherwise_it_is_kept")}
          </Tick>
        </div>
        <Preview form={form} entry={entry} />
      </div>
      {reading && (
        <div className="mt-3">
          <ProblemList items={reading.problems.filter(({ unsaid }) => !unsaid)} />
          {reading.not_yet.length > 0 && (
            <div className="text-ochre">
              {t("the_release_in_force_does_not_have")}
              <ProblemList items={reading.not_yet} />
            </div>
          )}
          {reading.troubles.map((one) => (
            <p key={one} className="text-ochre">
              {one}
            </p>
          ))}
        </div>
      )}
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

/** What is shorter said than all of them are named. */
function entryPointWords(entry_points: Message["entry_points"]) {
  if (entry_points.length === WAYS.length) return t("at_any_entry_point");
  const byHand = entry_points.length === WAYS.length - 1 && !entry_points.includes("import");
  return byHand ? t("at_any_entry_point_but_import") : undefined;
}

const inALine = ({ name }: { name: string }) => name !== "answers";
