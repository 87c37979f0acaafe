// What fields of one and of several choices share.
import { useState } from "react";
import { ChoicePart } from "../../ui/choice-part";
import { Tick } from "../../ui/inputs";
import { words } from "../../words";
import { ChoiceLines } from "./choice-lines";
import { useChoiceLists } from "./choice-lists";
import { choicesFrom, linesOf, type Option } from "./choice-text";
import type { Field, FieldOf } from "./field";

const t = words("fields");
type Choosing = "choice" | "choices";
export type ChoosingField = FieldOf<Choosing>;

/** The settings to begin with, with choices that the field has already. */
export function choosingBegins(from: Field) {
  const choices: Option[] = "choices" in from ? from.choices : [];
  return { choices, choice_list: null, shuffled: false, columns: 1 };
}

export function offeredWords(type: string, field: ChoosingField) {
  return t("type_words_of_offered", {
    TYPE_WORDS: type,
    offered: field.choices.filter((choice) => !choice.retired).length,
    choice_list: String(Boolean(field.choice_list)),
  });
}

/** Retired choices are offered only where they are the answer already. */
export function offered(choices: Option[], chosen: readonly string[]) {
  return choices.filter((choice) => !choice.retired || chosen.includes(choice.code));
}

type ChoosingProps = {
  field: ChoosingField;
  onChange: (part: Partial<Omit<ChoosingField, "type">>) => void;
};
const OWN = "own";

export function ChoiceSettings({ field, several, onChange }: ChoosingProps & { several: boolean }) {
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
        {several && (
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
