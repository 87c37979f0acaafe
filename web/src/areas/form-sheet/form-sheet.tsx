// The form exactly as a clerk meets it: on the bench and at the desk the same.
import { type ReactNode, useId } from "react";
import { Facet } from "../../ui/facet";
import { FieldRow } from "./field-row";
import { HoldBanner } from "./hold-banner";
import {
  type Attempt,
  type Field,
  type Judgement,
  messagesOf,
  type Pressed,
  reasonsAsked,
  type Sheet,
  type SheetChanges,
} from "./judging";
import { Message } from "./message";

type Props = SheetChanges & {
  fields: Field[];
  sheet: Sheet;
  attempt: Attempt;
  judgement: Judgement | undefined;
  pressed: Pressed;
  readOnly?: boolean;
  /** Whether the record is on hold already. */
  held?: boolean;
  pointedAt?: readonly string[];
  /** What stands under the control of a field. */
  below?: (field: Field) => ReactNode;
};

export function FormSheet({
  fields,
  sheet,
  attempt,
  judgement,
  pressed,
  readOnly = false,
  held = false,
  pointedAt = [],
  below,
  ...changes
}: Props) {
  const scope = useId();
  const { atField, atTop } = messagesOf(judgement, pressed);
  const asked = reasonsAsked(judgement, attempt.reasons);
  const offered = judgement?.entry.proposals;
  const labelOf = (key: string | undefined) => fields.find((field) => field.key === key)?.label;
  const linkTo = (key: string) => (
    <a className="underline" href={`#${scope}-${key}`}>
      {labelOf(key)}
    </a>
  );
  const row = (field: Field, inside = false) => {
    const state = judgement?.entry.fields[field.key];
    if (field.helper || state?.shown === "hidden") return null;
    return (
      <FieldRow
        key={field.key}
        id={`${scope}-${field.key}`}
        field={field}
        state={state}
        words={judgement?.save.words[field.key]}
        attempt={attempt}
        twice={sheet.twice.includes(field.key)}
        told={atField.get(field.key) ?? []}
        reasons={readOnly ? [] : (asked.get(field.key) ?? [])}
        proposals={readOnly ? [] : (offered?.filter((one) => one.at.includes(field.key)) ?? [])}
        readOnly={readOnly}
        pointed={pointedAt.includes(field.key)}
        inside={inside}
        below={below?.(field)}
        {...changes}
      />
    );
  };
  return (
    <div className="@container">
      <div role="status" aria-label="Messages about the whole form">
        {judgement && <HoldBanner judgement={judgement} held={held} linkTo={linkTo} />}
        {judgement && judgement.save.drops.length > 0 && (
          <p className="border-y border-hairline py-2 text-slate">
            Saving will drop what is stored in {judgement.save.drops.map(labelOf).join(", ")}, as it
            is not asked any more.
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
              {state.complete ? "complete" : `${state.to_mend} to mend`}
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
