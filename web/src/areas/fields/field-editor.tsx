// A field being written: its label, what it holds, and how it is asked.

import type { KeyboardEvent } from "react";
import { Refused } from "../../api/client";
import { useAnnounced } from "../../ui/announcer";
import { Button } from "../../ui/button";
import { ChoicePart } from "../../ui/choice-part";
import { EditorFoot } from "../../ui/editor-foot";
import { Tick } from "../../ui/inputs";
import { isStoreKey } from "../../ui/keys";
import { useSettled } from "../../ui/pointer";
import { ProblemList, Trouble } from "../../ui/trouble";
import { words } from "../../words";
import { typeOf } from "../field-types";
import type { FieldType } from "./field-draft";
import { Hints, LabelAndKey, Switches, Takes } from "./field-parts";
import { sayable } from "./field-rules";
import { NO_RULE, useFieldWriting, type Writing } from "./field-writing";

const t = words("fields");

type Props = Writing & {
  /** Why it was refused before, where it is open again. */
  refused?: Error | null;
};

const PAUSE = 600; // milliseconds, before what is to be thought of is told
/** What cannot be stored yet, told while it is being written. */
function Refusal({ error }: { error: Error }) {
  if (!(error instanceof Refused)) return <Trouble error={error} />;
  return (
    <div role="alert" className="text-madder">
      {t("fix_before_saving")}
      <ProblemList items={error.problem.errors} placed />
    </div>
  );
}

export function FieldEditor({ form, view, onClose, onAdd, refused, onSay }: Props) {
  const writing = useFieldWriting({ form, view, onClose, onAdd, onSay });
  const { field, needed, store, set, save } = writing;
  const { Settings } = typeOf(field);
  const advice = useSettled(writing.reading.data?.advice, PAUSE) ?? [];
  useAnnounced("field", advice.map(({ message }) => message).join(" "));
  function onKeyDown(event: KeyboardEvent) {
    if (isStoreKey(event) && !store.isPending) save({ next: event.shiftKey });
    if (event.key === "Escape" && !event.defaultPrevented) onClose();
  }
  return (
    <section
      data-focus="first"
      data-opened-by={view ? `field:${field.key} new-field` : "new-field"}
      aria-label={view ? t("changing_label", { label: view.field.label }) : t("a_new_field")}
      className="my-3 border-l-4 border-thistle bg-leaf px-5 py-4"
      onKeyDown={onKeyDown}
    >
      <LabelAndKey field={field} view={view} onChange={set} />
      <Takes form={form} field={field} onChange={set} onType={writing.setType} />
      {/* biome-ignore lint/a11y/noStaticElementInteractions: it only notes that the settings were left */}
      <div onBlur={writing.tell}>{Settings && <Settings field={field} onChange={set} />}</div>
      <Hints field={field} view={view} onChange={set} />
      <div className="mt-3 flex flex-wrap gap-x-6 gap-y-1">
        {!view && (
          <Tick checked={needed} onChange={writing.setNeeded}>
            {t("it_is_required_to_submit_and_warned")}
          </Tick>
        )}
        {onSay && <Next type={field.type} value={writing.first} onChange={writing.setFirst} />}
        <Switches field={field} onChange={set} />
      </div>
      <div className="mt-2 text-ochre">
        <ProblemList items={advice} />
      </div>
      {writing.told && !store.error && writing.reading.error && (
        <Refusal error={writing.reading.error} />
      )}
      {refused && !writing.told && <Trouble error={refused} />}
      <EditorFoot
        what="field"
        isNew={!view}
        busy={store.isPending}
        dirty={writing.dirty}
        storing={store.error}
        trouble={writing.remove.error}
        onStore={() => save()}
        onClose={writing.close}
        onKeepMine={writing.keepMine}
        asideStore={
          !view && (
            <Button
              busy={store.isPending}
              title={t("ctrl_shift_enter")}
              onClick={() => save({ next: true })}
            >
              {t("add_it_then_the_next")}
            </Button>
          )
        }
        onTakeOut={() => writing.takeOut()}
        onAnyway={() => (writing.remove.error ? writing.takeOut(true) : save({ anyway: true }))}
      />
    </section>
  );
}

type NextProps = { type: FieldType; value: string; onChange: (kind: string) => void };

/** The first rule of a new field, which is written once it is added. */
function Next({ type, value, onChange }: NextProps) {
  const kinds = sayable(type).filter(({ next }) => next);
  const options = kinds.map(({ kind, words }) => ({ value: kind, label: words }));
  return (
    <span>
      {t("then_say")}
      <ChoicePart
        label={t("what_is_said_of_it_next")}
        value={value}
        groups={[{ options: [{ value: NO_RULE, label: t("nothing_more") }, ...options] }]}
        onChoose={onChange}
      />
    </span>
  );
}
