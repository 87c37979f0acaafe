// The parts of the editor of a field: its label and key, what it takes, its hints and its switches.
import { useId } from "react";
import { Button } from "../../ui/button";
import { ChoicePart } from "../../ui/choice-part";
import { Line, Tick } from "../../ui/inputs";
import { ListInput } from "../../ui/list-input";
import { words } from "../../words";
import { ALL_TYPES } from "../field-types";
import type { FormView } from "../form/form";
import type { Field, FieldType, FieldView } from "./field-draft";
import { DRAWN } from "./queries";

const t = words("fields");

type Props = {
  field: Field;
  view: FieldView | null;
  onChange: (part: Partial<Field>) => void;
};

export function LabelAndKey({ field, view, onChange }: Props) {
  const labelled = useId();
  return (
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
        onChange={(event) => onChange({ label: event.target.value })}
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
          onChange={(event) => onChange({ key: event.target.value || DRAWN })}
        />
      )}
    </div>
  );
}

const WITHOUT = "none";
type TakesProps = Omit<Props, "view"> & {
  form: FormView;
  /** It takes something else: what belonged to the type before goes. */
  onType: (type: FieldType) => void;
};

/** What it takes and where it stands, as a sentence. */
export function Takes({ form, field, onChange, onType }: TakesProps) {
  const sections = [
    { value: WITHOUT, label: t("no_section") },
    ...form.sheet.sections.map(({ key, label }) => ({ value: key, label })),
  ];
  return (
    <div className="my-4 flex flex-wrap items-baseline gap-x-1 gap-y-1.5 font-serif text-[1.3rem] leading-9">
      <span>{t("it_takes")}</span>
      <ChoicePart
        label={t("what_it_takes")}
        value={field.type}
        groups={[
          {
            options: ALL_TYPES.map(({ type, words }) => ({ value: type, label: words })),
          },
        ]}
        onChoose={(type) => onType(type as FieldType)}
      />
      {form.sheet.sections.length > 0 && (
        <>
          <span>{t("and_stands_in")}</span>
          <ChoicePart
            label={t("section")}
            value={field.section ?? WITHOUT}
            groups={[{ options: sections }]}
            onChoose={(key) => onChange({ section: key === WITHOUT ? null : key })}
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
            onChange={(layouts) => onChange({ layouts })}
          />
        </>
      )}
      <span className="-ml-1">.</span>
    </div>
  );
}

export function Hints({ field, view, onChange }: Props) {
  return (
    <div className="mt-3 grid grid-cols-2 gap-x-6 gap-y-2">
      <div>
        <Line label={t("hint")} value={field.hint} onChange={(hint) => onChange({ hint })} />
        {view?.drafted_hint && view.drafted_hint !== field.hint && (
          <Button look="quiet" onClick={() => onChange({ hint: view.drafted_hint })}>
            {t("from_the_rules_drafted_hint", { drafted_hint: view.drafted_hint })}
          </Button>
        )}
      </div>
      <Line
        label={t("shown_while_blank")}
        value={field.placeholder}
        onChange={(placeholder) => onChange({ placeholder })}
      />
    </div>
  );
}

/** What else is so or not. */
export function Switches({ field, onChange }: Omit<Props, "view">) {
  return (
    <>
      <Tick checked={field.label_shown} onChange={(label_shown) => onChange({ label_shown })}>
        {t("the_label_is_shown")}
      </Tick>
      <Tick checked={field.emphasis} onChange={(emphasis) => onChange({ emphasis })}>
        {t("the_value_stands_out_as_a_total")}
      </Tick>
      <Tick checked={field.keep} onChange={(keep) => onChange({ keep })}>
        {t("a_stored_value_stays_while_it_is")}
      </Tick>
      <Tick checked={field.helper} onChange={(helper) => onChange({ helper })}>
        {t("a_helper_derived_never_shown_never_stored")}
      </Tick>
    </>
  );
}
