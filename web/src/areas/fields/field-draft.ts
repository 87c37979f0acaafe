// A field while it is being written. Shapes only: what is wrong with it is asked of the server.
import type { Schemas } from "../../api/client";
import { words } from "../../words";

const t = words("fields");

export type FieldView = Schemas["FieldView"];
export type Field = FieldView["field"];
export type FieldType = Field["type"];
type Option = Extract<Field, { type: "choice" }>["choices"][number];

export const TYPE_WORDS: Record<FieldType, string> = {
  text: t("text"),
  whole_number: t("a_whole_number"),
  decimal: t("a_decimal_number"),
  date: t("a_date"),
  time: t("a_time_of_day"),
  date_time: t("a_date_and_time"),
  yes_no: t("yes_or_no"),
  choice: t("one_choice"),
  choices: t("several_choices"),
  reference: t("a_record_of_another_form"),
};

const NUMBER = { unit: null, unit_first: false, grouped: true, decimal_mark: null } as const;
const CHOOSING = { choices: [] as Option[], choice_list: null, shuffled: false, columns: 1 };

/** What fields of every type have in common. */
function shared(field: Field) {
  const { key, label, hint, placeholder, label_shown, width } = field;
  const { emphasis, section, layouts, helper, keep } = field;
  return {
    ...{ key, label, hint, placeholder, label_shown, width },
    ...{ emphasis, section, layouts, helper, keep },
  };
}

/** The same field holding something else; what the two types share is kept. */
export function withType(field: Field, type: FieldType): Field {
  const base = shared(field);
  const number = "unit" in field ? { ...NUMBER, unit: field.unit } : NUMBER;
  const choosing = "choices" in field ? { ...CHOOSING, choices: field.choices } : CHOOSING;
  switch (type) {
    case "text":
      return { ...base, type, long: false, trim: true, collapse: false, letter_case: null };
    case "whole_number":
      return { ...base, ...number, type };
    case "decimal":
      return { ...base, ...number, type, scale: 2 };
    case "date":
    case "date_time":
      return { ...base, type, date_order: null };
    case "time":
    case "yes_no":
      return { ...base, type };
    case "choice":
    case "choices":
      return { ...base, ...choosing, type };
    case "reference":
      return { ...base, type, form: "", held_allowed: true };
  }
}

/** A field to begin with: its key is drawn from its label when it is added. */
export function newField(section: string | null): Field {
  return {
    ...{ key: "new", label: "", hint: "", placeholder: "", label_shown: true, width: "full" },
    ...{ emphasis: false, section, layouts: [], helper: false, keep: false },
    ...{ type: "text", long: false, trim: true, collapse: false, letter_case: null },
  } as Field;
}

/** Choices as lines that can be pasted: a label a line, or `code = label`; a dash retires one. */
export function linesOf(choices: readonly Option[]) {
  return choices
    .map(({ code, label, retired }) => {
      const line = code === codeOf(label) ? label : `${code} = ${label}`;
      return retired ? `- ${line}` : line;
    })
    .join("\n");
}

export function choicesFrom(lines: string): Option[] {
  return lines
    .split("\n")
    .map((line) => line.trim())
    .filter((line) => line !== "" && line !== "-")
    .map((line) => {
      const retired = /^-\s/.test(line);
      const bare = retired ? line.replace(/^-\s+/, "") : line;
      const [, code, label] = /^(\S+)\s+=\s+(.+)$/.exec(bare) ?? [];
      return { code: code ?? codeOf(bare), label: label ?? bare, retired };
    });
}

function codeOf(label: string) {
  return label.toLowerCase().replace(/[\s-]+/g, "_");
}

/** What the field holds, in a few words. */
export function holdsWords(field: Field) {
  switch (field.type) {
    case "text":
      return field.long ? t("long_text") : "text";
    case "whole_number":
    case "decimal":
      return t("type_in_unit", {
        type: TYPE_WORDS[field.type],
        has: String(Boolean(field.unit)),
        unit: field.unit ?? "",
      });
    case "choice":
    case "choices": {
      const offered = field.choices.filter((choice) => !choice.retired).length;
      return t("type_words_of_offered", {
        TYPE_WORDS: TYPE_WORDS[field.type],
        offered,
        choice_list: String(Boolean(field.choice_list)),
      });
    }
    default:
      return TYPE_WORDS[field.type];
  }
}

/** The keys with one moved past the next (1) or the previous one (-1) of its own section. */
export function movedWithin(
  keys: readonly string[],
  key: string,
  by: -1 | 1,
  sectionOf: (key: string) => string,
) {
  const own = keys.filter((one) => sectionOf(one) === sectionOf(key));
  const neighbour = own[own.indexOf(key) + by];
  if (neighbour === undefined) return [...keys];
  const next = keys.filter((one) => one !== key);
  next.splice(next.indexOf(neighbour) + (by > 0 ? 1 : 0), 0, key);
  return next;
}
