// A field being written: its label, what it holds, and how it is asked.
import { type KeyboardEvent, useEffect, useId, useRef, useState } from "react";
import { Refused } from "../../api/client";
import { useAnnounced } from "../../ui/announcer";
import { Button } from "../../ui/button";
import { ChoicePart } from "../../ui/choice-part";
import { EditorFoot } from "../../ui/editor-foot";
import { Line, Tick } from "../../ui/inputs";
import { keep, useKept } from "../../ui/kept";
import { isStoreKey } from "../../ui/keys";
import { ListInput } from "../../ui/list-input";
import { useSettled } from "../../ui/pointer";
import { ProblemList, Trouble } from "../../ui/trouble";
import { words } from "../../words";
import type { FormView } from "../form/form";
import { type Added, draftOf, type FieldDraft } from "./adding";
import {
  type Field,
  type FieldType,
  type FieldView,
  newField,
  TYPE_WORDS,
  withType,
} from "./field-draft";
import { sayable } from "./field-rules";
import { DRAWN, useFieldReading, useRemoveField, useStoreField } from "./queries";
import { TypeSettings } from "./type-settings";

const t = words("fields");

type Props = {
  form: FormView;
  view: FieldView | null;
  onClose: () => void;
  /** A new field is whole: it is added while the next is begun, or this is closed. */
  onAdd?: (added: Added, next: boolean) => void;
  /** Why it was refused before, where it is open again. */
  refused?: Error | null;
  /** A field has been added, and its first rule of this kind is to be written. */
  onSay?: (field: string, kind: string) => void;
};

const WITHOUT = "none";
const NO_RULE = "none";
const PAUSE = 600; // milliseconds, before what is to be thought of is told
/** What cannot be stored yet, told while it is being written. */
function ToMend({ error }: { error: Error }) {
  if (!(error instanceof Refused)) return <Trouble error={error} />;
  return (
    <div role="alert" className="text-madder">
      {t("fix_before_saving")}
      <ProblemList items={error.problem.errors} placed />
    </div>
  );
}

export function FieldEditor({ form, view, onClose, onAdd, refused, onSay }: Props) {
  const last = form.fields.at(-1)?.field.section ?? null;
  const start: FieldDraft = view
    ? { field: view.field, revision: view.revision, needed: false }
    : { field: newField(last), revision: null, needed: false };
  const kept = useKept<FieldDraft>(
    view ? `field:${form.key}:${view.field.key}` : draftOf(form.key),
    start,
  );
  // While nothing was changed here, it follows what is stored.
  const { field, revision, needed } = kept.dirty || !view ? kept.value : start;
  const store = useStoreField(form.key, () => kept.forget(start));
  const remove = useRemoveField(form.key, close);
  const reading = useFieldReading(form.key, field, view?.field.key ?? null);
  const advice = useSettled(reading.data?.advice, PAUSE) ?? [];
  useAnnounced("field", advice.map(({ message }) => message).join(" "));
  const box = useRef<HTMLElement>(null);
  const labelled = useId();
  useEffect(() => {
    box.current?.querySelector("input")?.focus({ preventScroll: true });
    box.current?.scrollIntoView({ block: "nearest" });
  }, []);

  function set(part: Partial<Field>) {
    kept.change({ field: { ...field, ...part } as Field, revision, needed });
  }
  function close() {
    kept.close(start);
    onClose();
  }
  const [first, setFirst] = useState(NO_RULE);
  /** Whether what is wrong may be told: once it was to be stored, or its settings were left. */
  const [told, setTold] = useState(false);
  function save(anyway = false, onTopOf = revision, next = false) {
    setTold(true);
    // What was read last may be of what stood there before, so the server is asked all the same.
    if (!view && onAdd && first === NO_RULE && field.label.trim() !== "") {
      // What is typed from now on belongs to the next one.
      kept.close(start);
      if (next && field.section)
        keep(draftOf(form.key), { ...start, field: newField(field.section) });
      return onAdd({ field, needed }, next);
    }
    store.mutate(
      { field, revision: onTopOf, anyway, needed },
      {
        onSuccess: (stored) => {
          if (first !== NO_RULE && onSay) return onSay(stored.field.key, first);
          close();
        },
      },
    );
  }
  function takeOut(anyway = false) {
    if (view) remove.mutate({ view, anyway });
  }
  function onKeyDown(event: KeyboardEvent) {
    if (isStoreKey(event) && !store.isPending) save(false, revision, event.shiftKey);
    if (event.key === "Escape" && !event.defaultPrevented) onClose();
  }
  const sections = [
    { value: WITHOUT, label: t("no_section") },
    ...form.sheet.sections.map(({ key, label }) => ({ value: key, label })),
  ];
  return (
    <section
      ref={box}
      aria-label={view ? t("changing_label", { label: view.field.label }) : t("a_new_field")}
      className="my-3 border-l-4 border-thistle bg-leaf px-5 py-4"
      onKeyDown={onKeyDown}
    >
      <div className="flex items-baseline gap-3">
        <label className="text-muted" htmlFor={labelled}>
          {t("label")}
        </label>
        <input
          id={labelled}
          className="line-input grow"
          value={field.label}
          spellCheck
          placeholder={t("what_people_read_beside_it")}
          onChange={(event) => set({ label: event.target.value })}
        />
        {view ? (
          <span className="font-mono text-sm text-muted">{field.key}</span>
        ) : (
          <input
            aria-label={t("key_in_formulas")}
            className="line-input w-52 font-mono text-sm"
            placeholder={t("key_drawn_from_the_label")}
            spellCheck={false}
            value={field.key === DRAWN ? "" : field.key}
            onChange={(event) => set({ key: event.target.value || DRAWN })}
          />
        )}
      </div>
      <div className="my-4 flex flex-wrap items-baseline gap-x-1 gap-y-1.5 font-serif text-[1.3rem] leading-9">
        <span>{t("it_takes")}</span>
        <ChoicePart
          label={t("what_it_takes")}
          value={field.type}
          groups={[
            {
              options: Object.entries(TYPE_WORDS).map(([value, label]) => ({ value, label })),
            },
          ]}
          onChoose={(type) =>
            kept.change({ field: withType(field, type as FieldType), revision, needed })
          }
        />
        {form.sheet.sections.length > 0 && (
          <>
            <span>{t("and_stands_in")}</span>
            <ChoicePart
              label={t("section")}
              value={field.section ?? WITHOUT}
              groups={[{ options: sections }]}
              onChoose={(key) => set({ section: key === WITHOUT ? null : key })}
            />
          </>
        )}
        {form.setup.layouts.length > 0 && (
          <>
            <span>{t("shown_on")}</span>
            <ListInput
              label={t("layouts_it_is_shown_on")}
              empty={t("every_layout")}
              values={field.layouts}
              options={form.setup.layouts.map(({ key, label }) => ({ value: key, label }))}
              onChange={(layouts) => set({ layouts })}
            />
          </>
        )}
        <span className="-ml-1">.</span>
      </div>
      {/* biome-ignore lint/a11y/noStaticElementInteractions: it only notes that the settings were left */}
      <div onBlur={() => setTold(true)}>
        <TypeSettings field={field} onChange={set} />
      </div>
      <div className="mt-3 grid grid-cols-2 gap-x-6 gap-y-2">
        <div>
          <Line label={t("hint")} value={field.hint} onChange={(hint) => set({ hint })} />
          {view?.drafted_hint && view.drafted_hint !== field.hint && (
            <Button look="quiet" onClick={() => set({ hint: view.drafted_hint })}>
              {t("from_the_rules_drafted_hint", { drafted_hint: view.drafted_hint })}
            </Button>
          )}
        </div>
        <Line
          label={t("shown_while_blank")}
          value={field.placeholder}
          onChange={(placeholder) => set({ placeholder })}
        />
      </div>
      <div className="mt-3 flex flex-wrap gap-x-6 gap-y-1">
        {!view && (
          <Tick checked={needed} onChange={(needed) => kept.change({ field, revision, needed })}>
            {t("it_is_required_to_submit_and_warned")}
          </Tick>
        )}
        {onSay && (
          <span>
            {t("then_say")}
            <ChoicePart
              label={t("what_is_said_of_it_next")}
              value={first}
              groups={[
                {
                  options: [
                    { value: NO_RULE, label: t("nothing_more") },
                    ...sayable(field.type)
                      .filter(({ next }) => next)
                      .map(({ kind, words }) => ({ value: kind, label: words })),
                  ],
                },
              ]}
              onChoose={setFirst}
            />
          </span>
        )}
        <Tick checked={field.label_shown} onChange={(label_shown) => set({ label_shown })}>
          {t("the_label_is_shown")}
        </Tick>
        <Tick checked={field.emphasis} onChange={(emphasis) => set({ emphasis })}>
          {t("the_value_stands_out_as_a_total")}
        </Tick>
        <Tick checked={field.keep} onChange={(keep) => set({ keep })}>
          {t("a_stored_value_stays_while_it_is")}
        </Tick>
        <Tick checked={field.helper} onChange={(helper) => set({ helper })}>
          {t("a_helper_derived_never_shown_never_stored")}
        </Tick>
      </div>
      <div className="mt-2 text-ochre">
        <ProblemList items={advice} />
      </div>
      {told && !store.error && reading.error && <ToMend error={reading.error} />}
      {refused && !told && <Trouble error={refused} />}
      <EditorFoot
        what="field"
        isNew={!view}
        busy={store.isPending}
        dirty={kept.dirty}
        storing={store.error}
        trouble={remove.error}
        onStore={() => save()}
        onClose={close}
        onKeepMine={(newer) => {
          kept.change({ field, revision: newer, needed });
          save(false, newer);
        }}
        asideStore={
          !view && (
            <Button
              busy={store.isPending}
              title={t("ctrl_shift_enter")}
              onClick={() => save(false, revision, true)}
            >
              {t("add_it_then_the_next")}
            </Button>
          )
        }
        onTakeOut={() => takeOut()}
        onAnyway={() => (remove.error ? takeOut(true) : save(true))}
      />
    </section>
  );
}
