// What a field of each type can be told about what it holds.
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { answer, client } from "../../api/client";
import { ChoicePart } from "../../ui/choice-part";
import { Line, Tick } from "../../ui/inputs";
import { ChoiceLines } from "./choice-lines";
import { choicesFrom, type Field, linesOf } from "./field-draft";
import { useChoiceLists } from "./queries";

type Props = { field: Field; onChange: (part: Partial<Field>) => void };

export function TypeSettings({ field, onChange }: Props) {
  switch (field.type) {
    case "text":
      return (
        <div className="flex flex-wrap items-center gap-x-6 gap-y-1">
          <Tick checked={field.long} onChange={(long) => onChange({ long })}>
            several lines
          </Tick>
          <Tick checked={field.collapse} onChange={(collapse) => onChange({ collapse })}>
            spaces in a row become one
          </Tick>
          <span>
            written{" "}
            <ChoicePart
              label="Letters"
              value={field.letter_case ?? "as_typed"}
              groups={[
                {
                  options: [
                    { value: "as_typed", label: "as it is typed" },
                    { value: "upper", label: "in capitals" },
                    { value: "lower", label: "in small letters" },
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
        label="Unit or currency"
        value={field.unit ?? ""}
        onChange={(unit) => onChange({ unit: unit || null })}
      />
      {field.type === "decimal" && (
        <label className="block">
          <span className="text-muted">Digits after the point</span>
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
        the unit comes first
      </Tick>
      <Tick checked={field.grouped} onChange={(grouped) => onChange({ grouped })}>
        thousands are marked
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
      label="Where its choices come from"
      value={field.choice_list ?? OWN}
      groups={[
        { options: [{ value: OWN, label: "choices of its own" }] },
        {
          label: "a list that forms share",
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
        It offers the {shared?.choices.length ?? field.choices.length} of {source}
        <span className="text-muted">
          {" "}
          The list is changed in the set-up of the form, for every form that uses it.
        </span>
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
          in another order each time
        </Tick>
        {field.type === "choices" && (
          <label className="flex items-center gap-2">
            in
            <input
              type="number"
              min={1}
              max={6}
              className="line-input w-16"
              value={field.columns}
              onChange={(event) => onChange({ columns: Number(event.target.value) })}
            />
            columns
          </label>
        )}
      </div>
    </div>
  );
}

type Reference = Extract<Field, { type: "reference" }>;

function ReferenceSettings({ field, onChange }: { field: Reference; onChange: Props["onChange"] }) {
  const forms = useQuery({
    queryKey: ["forms"],
    queryFn: () => answer(client.GET("/api/v1/forms")),
  });
  const options = (forms.data ?? []).map(({ key, name }) => ({ value: key, label: name }));
  return (
    <div className="flex flex-wrap items-baseline gap-x-6">
      <span>
        of the form{" "}
        <ChoicePart
          label="Form referred to"
          value={field.form}
          groups={[{ options }]}
          onChoose={(form) => onChange({ form })}
        />
      </span>
      <Tick checked={field.held_allowed} onChange={(held_allowed) => onChange({ held_allowed })}>
        a record on hold may be referred to
      </Tick>
    </div>
  );
}
