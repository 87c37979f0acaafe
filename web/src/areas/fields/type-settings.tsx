// What a field of each type can be told about what it holds.

import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { answer, client } from "../../api/client";
import { keys } from "../../api/keys";
import { ChoicePart } from "../../ui/choice-part";
import { Line, Tick } from "../../ui/inputs";
import { words } from "../../words";
import { ChoiceLines } from "./choice-lines";
import { choicesFrom, type Field, linesOf } from "./field-draft";
import { useChoiceLists } from "./queries";

const t = words("fields");

type Props = { field: Field; onChange: (part: Partial<Field>) => void };

export function TypeSettings({ field, onChange }: Props) {
  switch (field.type) {
    case "text":
      return (
        <div className="flex flex-wrap items-center gap-x-6 gap-y-1">
          <Tick checked={field.long} onChange={(long) => onChange({ long })}>
            {t("several_lines")}
          </Tick>
          <Tick checked={field.collapse} onChange={(collapse) => onChange({ collapse })}>
            {t("spaces_in_a_row_become_one")}
          </Tick>
          <span>
            {t("written")}{" "}
            <ChoicePart
              label={t("letters")}
              value={field.letter_case ?? "as_typed"}
              groups={[
                {
                  options: [
                    { value: "as_typed", label: t("as_it_is_typed") },
                    { value: "upper", label: t("in_capitals") },
                    { value: "lower", label: t("in_small_letters") },
                  ],
                },
              ]}
              onChoose={(value) =>
                onChange({
                  letter_case: value === "as_typed" ? null : (value as "upper" | "lower"),
                })
              }
            />
          </span>
        </div>
      );
    case "whole_number":
    case "decimal":
      return <NumberSettings field={field} onChange={onChange} />;
    case "choice":
    case "choices":
      return <ChoiceSettings field={field} onChange={onChange} />;
    case "reference":
      return <ReferenceSettings field={field} onChange={onChange} />;
    default:
      return null;
  }
}

type Num = Extract<Field, { type: "whole_number" | "decimal" }>;

function NumberSettings({ field, onChange }: { field: Num; onChange: Props["onChange"] }) {
  return (
    <div className="flex flex-wrap items-end gap-x-6 gap-y-2">
      <Line
        label={t("unit_or_currency")}
        value={field.unit ?? ""}
        onChange={(unit) => onChange({ unit: unit || null })}
      />
      {field.type === "decimal" && (
        <label className="block">
          <span className="text-muted">{t("digits_after_the_point")}</span>
          <input
            type="number"
            min={0}
            max={20}
            className="line-input mt-1 block w-24"
            value={field.scale}
            onChange={(event) => onChange({ scale: Number(event.target.value) })}
          />
        </label>
      )}
      <Tick checked={field.unit_first} onChange={(unit_first) => onChange({ unit_first })}>
        {t("the_unit_comes_first")}
      </Tick>
      <Tick checked={field.grouped} onChange={(grouped) => onChange({ grouped })}>
        {t("thousands_are_marked")}
      </Tick>
    </div>
  );
}

const OWN = "own";
type Choosing = Extract<Field, { type: "choice" | "choices" }>;

function ChoiceSettings({ field, onChange }: { field: Choosing; onChange: Props["onChange"] }) {
  const [lines, setLines] = useState(() => linesOf(field.choices));
  const lists = useChoiceLists().data ?? [];
  const shared = lists.find(({ choices }) => choices.key === field.choice_list)?.choices;
  const source = (
    <ChoicePart
      label={t("where_its_choices_come_from")}
      value={field.choice_list ?? OWN}
      groups={[
        { options: [{ value: OWN, label: t("choices_of_its_own") }] },
        {
          label: t("a_list_that_forms_share"),
          options: lists.map(({ choices }) => ({ value: choices.key, label: choices.label })),
        },
      ]}
      onChoose={(key) => {
        const list = lists.find(({ choices }) => choices.key === key);
        onChange({ choice_list: list?.choices.key ?? null });
      }}
    />
  );
  if (field.choice_list)
    return (
      <p>
        {t("it_offers_the")} {shared?.choices.length ?? field.choices.length}{" "}
        {t.rich("of_source", { source: () => source })}
        <span className="text-muted"> {t("the_list_is_changed_in_the_set")}</span>
      </p>
    );
  return (
    <div className="grid grid-cols-[minmax(0,1fr)_auto] gap-x-6">
      <ChoiceLines
        lines={lines}
        rows={Math.min(Math.max(field.choices.length + 1, 4), 12)}
        onChange={(next) => {
          setLines(next);
          onChange({ choices: choicesFrom(next) });
        }}
      />
      <div className="flex flex-col gap-2 pt-6">
        {lists.length > 0 && <span>{source}</span>}
        <Tick checked={field.shuffled} onChange={(shuffled) => onChange({ shuffled })}>
          {t("in_another_order_each_time")}
        </Tick>
        {field.type === "choices" && (
          <label className="flex items-center gap-2">
            {t("in")}
            <input
              type="number"
              min={1}
              max={6}
              className="line-input w-16"
              value={field.columns}
              onChange={(event) => onChange({ columns: Number(event.target.value) })}
            />
            {t("columns")}
          </label>
        )}
      </div>
    </div>
  );
}

type Reference = Extract<Field, { type: "reference" }>;

function ReferenceSettings({ field, onChange }: { field: Reference; onChange: Props["onChange"] }) {
  const forms = useQuery({
    queryKey: keys.forms,
    queryFn: () => answer(client.GET("/api/v1/forms")),
  });
  const options = (forms.data ?? []).map(({ key, name }) => ({ value: key, label: name }));
  return (
    <div className="flex flex-wrap items-baseline gap-x-6">
      <span>
        {t("of_the_form")}{" "}
        <ChoicePart
          label={t("form_referred_to")}
          value={field.form}
          groups={[{ options }]}
          onChoose={(form) => onChange({ form })}
        />
      </span>
      <Tick checked={field.held_allowed} onChange={(held_allowed) => onChange({ held_allowed })}>
        {t("a_record_on_hold_may_be_referred")}
      </Tick>
    </div>
  );
}
