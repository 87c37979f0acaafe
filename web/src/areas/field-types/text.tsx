// Text of one line or several, and how it is normalised.
import { ChoicePart } from "../../ui/choice-part";
import { Tick } from "../../ui/inputs";
import { words } from "../../words";
import type { ControlProps } from "./control";
import type { FieldOf } from "./field";
import type { SettingsProps, TypeOf } from "./type";
import { Typed, type TypedLook } from "./typed-control";

const t = words("fields");
type TextField = FieldOf<"text">;

function Settings({ field, onChange }: SettingsProps<"text">) {
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
}

const look = (field: TextField): TypedLook => ({ lines: field.long, width: field.width });

function Control(props: ControlProps & { field: TextField }) {
  return <Typed {...props} look={look(props.field)} />;
}

export const text: TypeOf<"text"> = {
  type: "text",
  words: t("text"),
  begins: () => ({ type: "text", long: false, trim: true, collapse: false, letter_case: null }),
  holds: (field) => (field.long ? t("long_text") : t("text")),
  Settings,
  Control,
  look,
  isBounded: true,
  isGroup: false,
  // It needs no quotation marks around it.
  shown: (words) => (/^“.*”$/s.test(words) ? words.slice(1, -1) : words),
};
