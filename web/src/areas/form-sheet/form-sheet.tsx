// The form exactly as a clerk meets it: on the bench and at the desk the same.
import { type FocusEvent, type ReactNode, useId, useRef, useState } from "react";
import { useAnnounced } from "../../ui/announcer";
import { Facet } from "../../ui/facet";
import { useSteady } from "../../ui/pointer";
import { words } from "../../words";
import { FieldRow } from "./field-row";
import { goToField } from "./going";
import { HoldBanner } from "./hold-banner";
import {
  type Entries,
  type Field,
  type Judgement,
  messagesOf,
  type Passed,
  type Pressed,
  reasonsAsked,
  type Sheet,
  type SheetChanges,
  type Told,
} from "./judging";
import { Message } from "./message";

const t = words("formSheet");

type Props = SheetChanges & {
  fields: Field[];
  sheet: Sheet;
  entries: Entries;
  judgement: Judgement | undefined;
  pressed: Pressed;
  readOnly?: boolean;
  /** Why warnings were passed, by rule, where the record is read only. */
  passed?: Readonly<Record<string, Passed>>;
  /** Whether the record is on hold already. */
  held?: boolean;
  /** Where nothing is saved on the way, so that nothing comes on hold. */
  submitOnly?: boolean;
  pointedAt?: readonly string[];
  /** What stands under the control of a field. */
  below?: (field: Field) => ReactNode;
};

export function FormSheet({
  fields,
  sheet,
  entries,
  judgement: newest,
  pressed,
  readOnly = false,
  passed,
  held = false,
  submitOnly = false,
  pointedAt = [],
  below,
  ...changes
}: Props) {
  const scope = useId();
  const judgement = useSteady(newest);
  const { atField, atTop } = messagesOf(judgement, pressed);
  const asked = reasonsAsked(judgement, entries.reasons);
  const writing = useWriting(atField);
  // A reason is asked once the warning that it passes has been told.
  const spoken = new Set(
    [...atField.values(), atTop].flatMap((all) => all.map(({ rule }) => rule)),
  );
  useAnnounced(`sheet${scope}`, useNews(fields, atField, atTop));
  const offered = judgement?.entry.proposals;
  const labelOf = (key: string | undefined) => fields.find((field) => field.key === key)?.label;
  const linkTo = (key: string) => (
    <button type="button" className="underline" onClick={() => goToField(key)}>
      {labelOf(key)}
    </button>
  );
  const row = (field: Field, inside = false) => {
    const state = judgement?.entry.fields[field.key];
    if (field.helper || state?.display === "hidden") return null;
    return (
      <FieldRow
        key={field.key}
        id={`${scope}-${field.key}`}
        field={field}
        state={state}
        words={judgement?.save.words[field.key]}
        entries={entries}
        twice={sheet.twice.includes(field.key)}
        told={writing.shown(field.key, atField.get(field.key) ?? [])}
        judged={judgement}
        reasons={
          readOnly
            ? []
            : (asked.get(field.key) ?? []).filter(({ rule, text }) => text || spoken.has(rule))
        }
        passed={readOnly ? passedAt(judgement, field.key, passed) : []}
        proposals={readOnly ? [] : (offered?.filter((one) => one.at.includes(field.key)) ?? [])}
        readOnly={readOnly}
        pointed={pointedAt.includes(field.key)}
        inside={inside}
        labelOf={labelOf}
        below={below?.(field)}
        {...changes}
      />
    );
  };
  return (
    <div className="@container" {...writing.events}>
      <div role="status" aria-live="off" aria-label={t("messages_about_the_whole_form")}>
        {pressed === "submit" &&
          !readOnly &&
          judgement?.submit.refusals.map((refusal) => (
            <p key={refusal} className="border-y border-hairline py-2 text-madder">
              {refusal}
            </p>
          ))}
        {judgement && !submitOnly && (
          <HoldBanner judgement={judgement} held={held} linkTo={linkTo} />
        )}
        {judgement && judgement.save.drops.length > 0 && (
          <p className="border-y border-hairline py-2 text-slate">
            {t("saving_will_drop_what_is_stored_in", {
              join: judgement.save.drops.map(labelOf).join(", "),
            })}
          </p>
        )}
        {atTop.length > 0 && (
          <ul className="mb-3 border-y border-hairline py-2">
            {atTop.map((told) => (
              <Message key={`${told.rule}-${told.text}`} told={told}>
                {told.field && linkTo(told.field)}
              </Message>
            ))}
          </ul>
        )}
      </div>
      <InParts fields={fields} sheet={sheet} judgement={judgement} row={row} />
    </div>
  );
}

/** What is told at a field in which somebody is typing: what stood there before, and nothing new
 * until the field is left. A message that is corrected goes at once.
 */
function useWriting(atField: Map<string, Told[]>) {
  const [newest, setAt] = useState<{ field: string; stood: string[] } | null>(null);
  // A press elsewhere leaves the field: what is told then waits until the pointer is up.
  const at = useSteady(newest);
  return {
    shown: (key: string, told: Told[]) =>
      at?.field === key ? told.filter(({ rule }) => at.stood.includes(rule)) : told,
    events: {
      onInput: (event: FocusEvent | { target: EventTarget }) => {
        const target = event.target as HTMLElement;
        const field = target.closest<HTMLElement>("[data-field]")?.dataset.field;
        if (!field || newest?.field === field || !isText(target)) return;
        setAt({ field, stood: (atField.get(field) ?? []).map(({ rule }) => rule) });
      },
      onBlur: () => setAt(null),
    },
  };
}

const isText = (target: HTMLElement) =>
  target.matches("textarea, input:not([type=checkbox]):not([type=radio])");

/** What has come to be told since the last time, for those who listen; or that it is corrected. */
function useNews(
  fields: readonly Field[],
  atField: Map<string, Told[]>,
  atTop: readonly { text: string }[],
) {
  const now = new Map<string, string>();
  for (const field of fields)
    for (const { text } of atField.get(field.key) ?? [])
      now.set(`${field.label}: ${text}`, field.label);
  for (const { text } of atTop) now.set(text, "");
  const before = useRef<Map<string, string> | null>(null);
  const news = useRef("");
  const fresh = [...now.keys()].filter((one) => before.current && !before.current.has(one));
  const gone = [...(before.current ?? [])].filter(([one, label]) => label && !now.has(one));
  const [corrected] = gone.filter(([, label]) => ![...now.values()].includes(label));
  if (fresh.length > 0) news.current = fresh.slice(0, 2).join(" ");
  else if (corrected) news.current = t("corrected_is_corrected", { corrected: corrected[1] });
  before.current = now;
  return news.current;
}

/** Why warnings told at a field were passed. */
function passedAt(judgement: Judgement | undefined, key: string, passed: Props["passed"] = {}) {
  const rules = new Set(
    [judgement?.save, judgement?.submit].flatMap((verdict) =>
      (verdict?.results ?? [])
        .filter(({ rule, messages }) => rule in passed && messages?.[0]?.fields[0] === key)
        .map(({ rule }) => rule),
    ),
  );
  return [...rules].flatMap((rule) => passed[rule] ?? []);
}

type PartsProps = {
  fields: Field[];
  sheet: Sheet;
  judgement: Judgement | undefined;
  row: (field: Field, inside?: boolean) => ReactNode;
};

/** The rows under their sections, those of a compound together. */
function InParts({ fields, sheet, judgement, row }: PartsProps) {
  const rows = (own: Field[]) =>
    own.map((field) => {
      const compound = sheet.compounds.find((one) => one.parts.includes(field.key));
      if (!compound) return row(field);
      if (compound.parts[0] !== field.key) return null;
      const parts = own.filter((one) => compound.parts.includes(one.key));
      return (
        <fieldset
          key={compound.key}
          className="grid gap-x-4 border-b border-hairline py-2 @md:grid-cols-[11.5rem_minmax(0,1fr)]"
        >
          <legend className="float-left pt-1.5 @md:col-start-1">{compound.label}</legend>
          <div className="grid grid-cols-2 gap-x-4 @md:col-start-2">
            {parts.map((one) => row(one, true))}
          </div>
        </fieldset>
      );
    });
  const sectioned = sheet.sections.map((section) => {
    const own = fields.filter((field) => field.section === section.key);
    const state = judgement?.submit.sections[section.key];
    return (
      <section key={section.key} aria-labelledby={`section-${section.key}`} className="mt-4">
        <h3
          id={`section-${section.key}`}
          className="flex items-baseline gap-3 border-b border-edge pb-1 text-lg"
        >
          {section.label}
          {state && (
            <span
              className={`flex items-center gap-1.5 font-sans text-sm ${state.complete ? "text-moss" : "text-muted"}`}
            >
              {state.complete && <Facet level="clear" size={12} />}
              {state.complete
                ? t("complete")
                : t("to_correct_to_correct", { to_correct: state.to_correct })}
            </span>
          )}
        </h3>
        {rows(own)}
      </section>
    );
  });
  const known = new Set(sheet.sections.map((section) => section.key));
  const loose = fields.filter((field) => !field.section || !known.has(field.section));
  return (
    <>
      {rows(loose)}
      {sectioned}
    </>
  );
}
