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
      aria-label={template ? `Message ${template.name}` : "New message"}
      onKeyDown={onKeyDown}
      className="my-3 border-l-4 border-thistle bg-leaf px-5 py-4"
    >
      <div className="grid gap-x-8 gap-y-4 xl:grid-cols-2">
        <div className="space-y-3">
          <Line
            label="Name of the message"
            value={entry.name ?? ""}
            onChange={(name) => set({ name })}
          />
          <p className="font-serif text-[1.2rem] leading-9">
            When a record has been{" "}
            <ListInput
              label="Occasions"
              empty="what?"
              values={message.occasions}
              options={OCCASIONS}
              onChange={(to) => put({ occasions: to as Message["occasions"] })}
            />{" "}
            <ListInput
              label="Entry points"
              empty="at which entry point?"
              values={message.entry_points}
              options={WAYS}
              shows={entryPointWords(message.entry_points)}
              onChange={(to) => put({ entry_points: to as Message["entry_points"] })}
            />
            , write to{" "}
            <ReceiversPart
              label="Receivers"
              empty="whom?"
              options={receivers}
              receivers={message.to}
              onChange={(to) => put({ to })}
            />{" "}
            with copies to{" "}
            <ReceiversPart
              label="Copies"
              empty="nobody"
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
              begin="but only when"
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
                <Plus size={16} aria-hidden="true" /> only when…
              </Button>
            )
          )}
          <Line
            label="Address for replies (optional)"
            value={message.reply_to}
            onChange={(reply_to) => put({ reply_to })}
          />
          <label className="block">
            <span className="text-muted">Subject</span>
            <input
              ref={subject.box}
              className="line-input mt-1 block w-full"
              value={message.subject}
              spellCheck
              onChange={(event) => put({ subject: event.target.value })}
            />
          </label>
          <PlaceMenu
            label="Put a value into the subject"
            offers={offers.filter(inALine)}
            onChoose={subject.putIn}
          />
          <label className="block">
            <span className="text-muted">Text</span>
            <textarea
              ref={text.box}
              className="line-input mt-1 block w-full"
              rows={7}
              value={message.text}
              spellCheck
              placeholder={"Record {record} was {act} by {person}.\n\n{answers}"}
              onChange={(event) => put({ text: event.target.value })}
            />
          </label>
          <PlaceMenu label="Put a value into the text" offers={offers} onChoose={text.putIn} />
          <Tick checked={entry.enabled ?? true} onChange={(enabled) => set({ enabled })}>
            it is sent (otherwise it is kept, and not sent)
          </Tick>
        </div>
        <Preview form={form} entry={entry} />
      </div>
      {reading && (
        <div className="mt-3">
          <ProblemList items={reading.problems.filter(({ unsaid }) => !unsaid)} />
          {reading.not_yet.length > 0 && (
            <div className="text-ochre">
              The release in force does not have all of this yet:
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
            Keep mine
          </Button>
        )}
        <div className="mt-3 flex items-center gap-2">
          <Button look="solid" busy={store.isPending} onClick={save}>
            {template ? "Save message" : "Add message"}
          </Button>
          <Button onClick={leave}>{kept.dirty ? "Discard my changes" : "Close"}</Button>
          {onTakeOut && (
            <Button look="quiet" className="ml-auto" onClick={onTakeOut}>
              <Trash2 size={16} aria-hidden="true" /> Remove it
            </Button>
          )}
        </div>
      </div>
    </section>
  );
}

/** What is shorter said than all of them are named. */
function entryPointWords(entry_points: Message["entry_points"]) {
  if (entry_points.length === WAYS.length) return "at any entry point";
  const byHand = entry_points.length === WAYS.length - 1 && !entry_points.includes("import");
  return byHand ? "at any entry point but import" : undefined;
}

const inALine = ({ name }: { name: string }) => name !== "answers";
