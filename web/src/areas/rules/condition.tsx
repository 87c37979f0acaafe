// The clauses of a condition, read on as a sentence: “… and either … or …”.
import { DropdownMenu } from "radix-ui";
import { Fragment } from "react";
import { ChoicePart } from "../../ui/choice-part";
import type { FormView } from "../frame/form-frame";
import {
  blankClause,
  blankOperand,
  type Clause,
  type ClauseGroup,
  joined,
  withPart,
} from "./draft";
import { OperandPart } from "./operand-part";

type Props = {
  form: FormView;
  whole: ClauseGroup;
  label: string;
  onChange: (next: ClauseGroup | null) => void;
  nested?: boolean;
};

export function Condition({ form, whole, label, onChange, nested = false }: Props) {
  const opening =
    whole.parts.length < 2 ? "" : whole.join === "or" ? "either" : nested ? "both" : "";
  function add(index: number, join: "and" | "or") {
    const part = whole.parts[index];
    const field = form.fields.find((f) => part?.kind === "clause" && f.field.key === part.field);
    const first = field ?? form.fields[0];
    if (first) onChange(joined(whole, index, join, blankClause(first)));
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
              nested
              onChange={(next) => onChange(withPart(whole, index, next))}
            />
          ) : (
            <span className="inline-flex flex-wrap items-baseline gap-x-1">
              <ClauseParts
                form={form}
                clause={part}
                label={label}
                onChange={(next) => onChange(withPart(whole, index, next))}
              />
              <MoreMenu
                label={`More for this ${label}`}
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
  onChange: (next: Clause) => void;
};

function ClauseParts({ form, clause, label, onChange }: ClauseProps) {
  const field = form.fields.find((one) => one.field.key === clause.field);
  const offers = field?.operators ?? [];
  function chooseField(key: string) {
    const next = form.fields.find((one) => one.field.key === key);
    if (next && key !== clause.field) onChange(blankClause(next));
  }
  function chooseOperator(operator: string) {
    const offer = offers.find((one) => one.operator === operator);
    const before = offers.find((one) => one.operator === clause.operator);
    if (!offer) return;
    const operand =
      offer.operand === before?.operand ? clause.operand : blankOperand(offer.operand);
    onChange({ ...clause, operator: offer.operator, operand });
  }
  return (
    <>
      <ChoicePart
        label={`Field of the ${label}`}
        italic
        value={clause.field}
        groups={[
          { options: form.fields.map((f) => ({ value: f.field.key, label: f.field.label })) },
        ]}
        onChoose={chooseField}
      />
      <ChoicePart
        label={`Comparison of the ${label}`}
        value={clause.operator}
        groups={[
          {
            options: offers.map((offer) => ({ value: offer.operator, label: offer.words })),
          },
        ]}
        onChoose={chooseOperator}
      />
      {field && clause.operand && (
        <OperandPart
          form={form}
          field={field}
          operand={clause.operand}
          label={`Value of the ${label}`}
          onChange={(operand) => onChange({ ...clause, operand })}
        />
      )}
    </>
  );
}

type MoreProps = {
  label: string;
  onAdd: (join: "and" | "or") => void;
  onTakeOut: () => void;
};

function MoreMenu({ label, onAdd, onTakeOut }: MoreProps) {
  const item =
    "cursor-pointer rounded-xs px-3 py-1 font-sans text-base outline-none data-[highlighted]:bg-tint";
  return (
    <DropdownMenu.Root>
      <DropdownMenu.Trigger
        aria-label={label}
        className="min-h-6 min-w-6 rounded-xs text-thistle hover:bg-tint data-[state=open]:bg-tint"
      >
        +
      </DropdownMenu.Trigger>
      <DropdownMenu.Portal>
        <DropdownMenu.Content
          sideOffset={4}
          className="z-50 rounded-xs border border-edge bg-leaf p-1 shadow-lg"
        >
          <DropdownMenu.Item className={item} onSelect={() => onAdd("and")}>
            and …
          </DropdownMenu.Item>
          <DropdownMenu.Item className={item} onSelect={() => onAdd("or")}>
            or …
          </DropdownMenu.Item>
          <DropdownMenu.Item className={item} onSelect={onTakeOut}>
            take this out
          </DropdownMenu.Item>
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  );
}
