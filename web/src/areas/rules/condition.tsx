// The clauses of a condition, read on as a sentence: “… and either … or …”.
import { DropdownMenu } from "radix-ui";
import { Fragment } from "react";
import { ChoicePart } from "../../ui/choice-part";
import { leaveStoreKey } from "../../ui/keys";
import { words } from "../../words";
import type { FormView } from "../form/form";
import type { Clause, ClauseGroup } from "../form/rule";
import { blankClause, blankOperand, joined, subjectOf, withPart } from "./clauses";
import { OperandPart } from "./operand-part";

const t = words("rules");

type Props = {
  form: FormView;
  whole: ClauseGroup;
  label: string;
  onChange: (next: ClauseGroup | null) => void;
  /** Whether the clauses speak of another record's fields first. */
  others?: boolean;
  nested?: boolean;
};

export function Condition(props: Props) {
  const { form, whole, label, onChange, others = false, nested = false } = props;
  const opening =
    whole.parts.length < 2 ? "" : whole.join === "or" ? "either" : nested ? "both" : "";
  function add(index: number, join: "and" | "or") {
    const part = whole.parts[index];
    const field = form.fields.find((f) => part?.kind === "clause" && f.field.key === part.field);
    const first = field ?? form.fields[0];
    if (first) onChange(joined(whole, index, join, blankClause(first, others ? "other" : "value")));
  }
  return (
    <>
      {opening && <span>{opening}</span>}
      {whole.parts.map((part, index) => (
        // biome-ignore lint/suspicious/noArrayIndexKey: clauses have no identity but their place
        <Fragment key={index}>
          {index > 0 && <span>{whole.join}</span>}
          {part.kind === "group" ? (
            <Condition
              form={form}
              whole={part}
              label={label}
              others={others}
              nested
              onChange={(next) => onChange(withPart(whole, index, next))}
            />
          ) : (
            <span className="inline-flex flex-wrap items-baseline gap-x-1">
              <ClauseParts
                form={form}
                clause={part}
                label={label}
                others={others}
                onChange={(next) => onChange(withPart(whole, index, next))}
              />
              <MoreMenu
                form={form}
                clause={part}
                label={label}
                others={others}
                onChange={(next) => onChange(withPart(whole, index, next))}
                onAdd={(join) => add(index, join)}
                onTakeOut={() => onChange(withPart(whole, index, null))}
              />
            </span>
          )}
        </Fragment>
      ))}
    </>
  );
}

type ClauseProps = {
  form: FormView;
  clause: Clause;
  label: string;
  others: boolean;
  onChange: (next: Clause) => void;
};

const HOLDING = [
  { value: "is_true", label: t("is_met") },
  { value: "holds_not", label: t("is_not_met") },
];

function ClauseParts({ form, clause, label, others, onChange }: ClauseProps) {
  const field = form.fields.find((one) => one.field.key === clause.field);
  const named = form.setup.conditions.some((one) => one.key === clause.field);
  const subject = subjectOf(field, clause.part);
  const offers = subject?.operators ?? [];
  function chooseField(key: string) {
    const next = form.fields.find((one) => one.field.key === key);
    if (key === clause.field) return;
    if (next) onChange(blankClause(next, others ? "other" : "value"));
    else
      onChange({ kind: "clause", field: key, part: "value", operator: "is_true", operand: null });
  }
  function chooseOperator(operator: string) {
    const offer = offers.find((one) => one.operator === operator);
    const before = offers.find((one) => one.operator === clause.operator);
    if (!offer) return;
    const operand =
      offer.operand === before?.operand ? clause.operand : blankOperand(offer.operand);
    onChange({ ...clause, operator: offer.operator, operand });
  }
  const fields = form.fields.map((f) => ({ value: f.field.key, label: f.field.label }));
  const conditions = form.setup.conditions.map(({ key, name }) => ({ value: key, label: name }));
  return (
    <>
      {clause.part === "other" && <span>{t("its")}</span>}
      <ChoicePart
        label={t("field_of_the_label", { label })}
        italic
        value={clause.field}
        groups={[
          { options: fields },
          ...(conditions.length > 0 ? [{ label: t("named_conditions"), options: conditions }] : []),
        ]}
        onChoose={chooseField}
      />
      {subject?.words && clause.part !== "value" && !subject.unit && (
        <span>, {subject.words},</span>
      )}
      <ChoicePart
        label={t("comparison_of_the_label", { label })}
        value={clause.operator}
        groups={[
          {
            options: named
              ? HOLDING
              : offers.map((offer) => ({ value: offer.operator, label: offer.words })),
          },
        ]}
        onChoose={
          named
            ? (operator) => onChange({ ...clause, operator: operator as Clause["operator"] })
            : chooseOperator
        }
      />
      {field && subject && clause.operand && (
        <OperandPart
          form={form}
          field={field}
          subject={subject}
          operand={clause.operand}
          label={t("value_of_the_label", { label })}
          others={others}
          onChange={(operand) => onChange({ ...clause, operand })}
        />
      )}
      {subject?.unit && <span>{subject.unit}</span>}
    </>
  );
}

type MoreProps = ClauseProps & {
  onAdd: (join: "and" | "or") => void;
  onTakeOut: () => void;
};

const ITEM =
  "cursor-pointer rounded-xs px-3 py-1 font-sans text-base outline-none data-[highlighted]:bg-tint";

function MoreMenu({ form, clause, label, others, onChange, onAdd, onTakeOut }: MoreProps) {
  const field = form.fields.find((one) => one.field.key === clause.field);
  const subjects = field?.subjects ?? [];
  function speakOf(part: string) {
    const offer = subjectOf(field, part)?.operators[0];
    if (!offer) return;
    const operand = blankOperand(offer.operand);
    onChange({ ...clause, part, operator: offer.operator, operand });
  }
  const parts = others
    ? [
        { part: "other", words: t("the_field_in_the_other_record") },
        { part: "value", words: t("the_field_in_this_record") },
      ]
    : subjects.map(({ part, words }) => ({ part, words: words || t("its_value") }));
  return (
    <DropdownMenu.Root>
      <DropdownMenu.Trigger
        aria-label={t("more_for_this_label", { label })}
        onKeyDown={leaveStoreKey}
        className="min-h-6 min-w-6 rounded-xs text-thistle hover:bg-tint data-[state=open]:bg-tint"
      >
        +
      </DropdownMenu.Trigger>
      <DropdownMenu.Portal>
        <DropdownMenu.Content
          sideOffset={4}
          className="z-50 max-h-96 overflow-auto rounded-xs border border-edge bg-leaf p-1 shadow-lg"
        >
          <DropdownMenu.Item className={ITEM} onSelect={() => onAdd("and")}>
            {t("and")}
          </DropdownMenu.Item>
          <DropdownMenu.Item className={ITEM} onSelect={() => onAdd("or")}>
            {t("or")}
          </DropdownMenu.Item>
          <DropdownMenu.Item className={ITEM} onSelect={onTakeOut}>
            {t("remove_this")}
          </DropdownMenu.Item>
          {parts.length > 1 && (
            <>
              <DropdownMenu.Label className="px-3 pt-2 text-sm text-muted">
                {t("speak_of")}
              </DropdownMenu.Label>
              {parts
                .filter(({ part }) => part !== clause.part)
                .map(({ part, words }) => (
                  <DropdownMenu.Item key={part} className={ITEM} onSelect={() => speakOf(part)}>
                    {words}
                  </DropdownMenu.Item>
                ))}
            </>
          )}
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  );
}
