// The parts of a message being written: when it goes and to whom, and what it says.
import { Plus } from "lucide-react";
import { useState } from "react";
import { Button } from "../../ui/button";
import { ListInput } from "../../ui/list-input";
import { ProblemList } from "../../ui/trouble";
import { PlaceMenu, usePutIn } from "../../ui/worded";
import { words } from "../../words";
import { WAYS } from "../form/entry-points";
import type { FormView } from "../form/form";
import { blankClause, group } from "../rules/clauses";
import { WrittenCondition } from "../rules/written-condition";
import type { Entry, Message, useTemplateReading } from "./queries";
import { ReceiversPart, useReceivers } from "./receivers";
import { OCCASIONS } from "./words";

const t = words("messages");

type Reading = NonNullable<ReturnType<typeof useTemplateReading>["data"]>;
type Props = {
  form: FormView;
  entry: Entry;
  onChange: (part: Partial<Entry>) => void;
};

const messageOf = (entry: Entry) => entry.message as Message;

/** When it goes, and to whom, as a sentence; and its condition. */
export function WhenAndWhom({ form, entry, onChange }: Props) {
  const message = messageOf(entry);
  const receivers = useReceivers(form);
  const [asking, setAsking] = useState(false);
  const asked = asking || message.condition !== "" || entry.clauses !== null;
  const first = form.fields[0];
  const put = (part: Partial<Message>) => onChange({ message: { ...message, ...part } });
  return (
    <>
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
            onChange({ clauses, message: { ...message, condition } })
          }
          onNone={() => {
            setAsking(false);
            onChange({ clauses: null, message: { ...message, condition: "" } });
          }}
        />
      ) : (
        first && (
          <Button
            look="quiet"
            onClick={() => {
              setAsking(true);
              onChange({ clauses: group("and", [blankClause(first, "value")]) });
            }}
          >
            <Plus size={16} aria-hidden="true" /> {t("only_when")}
          </Button>
        )
      )}
    </>
  );
}

type TextsProps = Omit<Props, "form"> & { offers: Reading["offers"] };

/** The subject and the text, into which values of the record can be put. */
export function Texts({ entry, offers, onChange }: TextsProps) {
  const message = messageOf(entry);
  const put = (part: Partial<Message>) => onChange({ message: { ...message, ...part } });
  const subject = usePutIn<HTMLInputElement>(message.subject, (to) => put({ subject: to }));
  const text = usePutIn<HTMLTextAreaElement>(message.text, (to) => put({ text: to }));
  return (
    <>
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
    </>
  );
}

/** What is to be corrected in it, and what could go wrong. */
export function Reads({ reading }: { reading: Reading }) {
  return (
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
  );
}

/** What is shorter said than all of them are named. */
function entryPointWords(entry_points: Message["entry_points"]) {
  if (entry_points.length === WAYS.length) return t("at_any_entry_point");
  const byHand = entry_points.length === WAYS.length - 1 && !entry_points.includes("import");
  return byHand ? t("at_any_entry_point_but_import") : undefined;
}

const inALine = ({ name }: { name: string }) => name !== "answers";
