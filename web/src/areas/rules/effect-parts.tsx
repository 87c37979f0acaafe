// What an effect gives its fields: a computed value, a starting one, or a proposal.
import { lazy, Suspense } from "react";
import { Button } from "../../ui/button";
import { ChoicePart } from "../../ui/choice-part";
import { DayInput } from "../../ui/day-input";
import type { FormView } from "../frame/form";
import type { Reading } from "./clause-place";
import type { Rule, RuleDraft, RuleOf } from "./draft";
import { answersIn } from "./operand-part";

const FormulaBox = lazy(() => import("./formula-box"));

type Props<R> = {
  form: FormView;
  draft: RuleDraft;
  reading: Reading;
  rule: R;
  onChange: (draft: RuleDraft) => void;
};

type FormulaProps = {
  form: FormView;
  reading: Reading;
  place: string;
  label: string;
  value: string;
  onChange: (value: string) => void;
};

/** A formula that gives a value. */
function Formula({ form, reading, place, label, value, onChange }: FormulaProps) {
  const problems = reading?.problems.filter((one) => one.place.startsWith(place)) ?? [];
  return (
    <span className="min-w-72 grow">
      <Suspense fallback={<span className="text-muted">…</span>}>
        <FormulaBox
          form={form}
          label={label}
          value={value}
          problems={problems}
          onChange={onChange}
        />
      </Suspense>
    </span>
  );
}

export function DeriveParts({ form, draft, reading, rule, onChange }: Props<RuleOf<"derive">>) {
  return (
    <>
      <span>as</span>
      <Formula
        form={form}
        reading={reading}
        place="value"
        label="Formula of the value"
        value={rule.value}
        onChange={(value) => onChange({ ...draft, rule: { ...rule, value } })}
      />
    </>
  );
}

const WAYS = [
  { value: "value", label: "the value" },
  { value: "formula", label: "what a formula gives" },
];

export function StartParts({ form, draft, reading, rule, onChange }: Props<RuleOf<"start">>) {
  const byFormula = rule.formula !== null && rule.formula !== undefined;
  const put = (next: Rule) => onChange({ ...draft, rule: next });
  const target = form.fields.find((one) => one.field.key === rule.targets[0]);
  const answers = answersIn(target?.subjects[0]);
  return (
    <>
      <ChoicePart
        label="What it starts as"
        value={byFormula ? "formula" : "value"}
        groups={[{ options: WAYS }]}
        onChoose={(way) =>
          put(
            way === "formula"
              ? { ...rule, value: null, formula: "today" }
              : { ...rule, value: "", formula: null },
          )
        }
      />
      {byFormula ? (
        <Formula
          form={form}
          reading={reading}
          place="formula"
          label="Formula of the starting value"
          value={rule.formula ?? ""}
          onChange={(formula) => put({ ...rule, formula })}
        />
      ) : answers ? (
        <ChoicePart
          label="Starting value"
          value={rule.value ?? ""}
          placeholder="which answer?"
          groups={[{ options: answers.map((one) => ({ value: one.value, label: one.label })) }]}
          onChoose={(value) => put({ ...rule, value })}
        />
      ) : target?.field.type === "date" ? (
        <DayInput
          label="Starting value"
          className="line-input w-44 font-sans text-base"
          value={rule.value ?? ""}
          onChange={(value) => put({ ...rule, value })}
        />
      ) : (
        <input
          aria-label="Starting value"
          className="line-input w-44 font-sans text-base"
          value={rule.value ?? ""}
          onChange={(event) => put({ ...rule, value: event.target.value })}
        />
      )}
    </>
  );
}

export function ProposeParts({ form, draft, reading, rule, onChange }: Props<RuleOf<"propose">>) {
  const put = (part: Partial<RuleOf<"propose">>) =>
    onChange({ ...draft, rule: { ...rule, ...part } });
  const options = form.fields.map((f) => ({ value: f.field.key, label: f.field.label }));
  const putSet = (index: number, part: Partial<(typeof rule.sets)[number]>) =>
    put({ sets: rule.sets.map((one, at) => (at === index ? { ...one, ...part } : one)) });
  const free = options.find(({ value }) => !rule.sets.some((one) => one.field === value));
  return (
    <>
      <span>called</span>
      <input
        aria-label="Title of the proposal"
        className="line-input w-56 font-sans text-base"
        spellCheck
        value={rule.title}
        onChange={(event) => put({ title: event.target.value })}
      />
      {rule.sets.map((one, index) => (
        // biome-ignore lint/suspicious/noArrayIndexKey: a proposed value has no identity but its place
        <span key={index} className="flex w-full flex-wrap items-baseline gap-1">
          <span>{index === 0 ? "that sets" : "and"}</span>
          <ChoicePart
            label={`Field proposed for, number ${index + 1}`}
            italic
            value={one.field}
            groups={[{ options }]}
            onChoose={(field) => putSet(index, { field })}
          />
          <span>to</span>
          <Formula
            form={form}
            reading={reading}
            place={`sets.${index}`}
            label={`Formula of the proposed value, number ${index + 1}`}
            value={one.value}
            onChange={(value) => putSet(index, { value })}
          />
          {rule.sets.length > 1 && (
            <Button
              look="quiet"
              className="font-sans"
              onClick={() => put({ sets: rule.sets.filter((_, at) => at !== index) })}
            >
              take this out
            </Button>
          )}
        </span>
      ))}
      {free && (
        <Button
          look="quiet"
          className="font-sans text-sm"
          onClick={() => put({ sets: [...rule.sets, { field: free.value, value: "" }] })}
        >
          + one more field
        </Button>
      )}
    </>
  );
}
