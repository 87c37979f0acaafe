// How a file is read, and what is done with its rows, as sentences with parts to choose.
import { ChoicePart, type Option } from "../../ui/choice-part";
import { Tick } from "../../ui/inputs";
import { words } from "../../words";
import type { Plan, Preview, RecordFile } from "./queries";

const t = words("imports");

type Props = {
  file: RecordFile;
  preview: Preview;
  plan: Plan;
  onChange: (part: Partial<Plan>) => void;
};

const AS_FIELDS = "fields";
const NEW = "new";
const MARKS: Option[] = [
  { value: AS_FIELDS, label: t("as_each_field_says") },
  { value: "point", label: t("with_a_decimal_point") },
  { value: "comma", label: t("with_a_decimal_comma") },
];
const ORDERS: Option[] = [
  { value: AS_FIELDS, label: t("as_each_field_says") },
  { value: "day_first", label: t("day_first_31_12_2026") },
  { value: "month_first", label: t("month_first_12_31_2026") },
  { value: "year_first", label: t("year_first_2026_12_31") },
];
const CANONICAL = "canonical";
const SPELLINGS: Option[] = [
  { value: CANONICAL, label: t("in_canonical_form_as_the_service_takes") },
  { value: "typed", label: t("as_people_type_them") },
];
const ENCODINGS: Option[] = [
  { value: "utf-8", label: t("utf_8") },
  { value: "windows-1252", label: t("western_european_windows_1252") },
];

export function Reading({ file, preview, plan, onChange }: Props) {
  const part = (
    label: string,
    value: string | null | undefined,
    options: Option[],
    choose: (value: string) => void,
  ) => (
    <ChoicePart
      label={label}
      value={value ?? options[0]?.value ?? ""}
      groups={[{ options }]}
      onChoose={choose}
    />
  );
  const marked = <T extends string>(value: string) => (value === AS_FIELDS ? null : (value as T));
  return (
    <div className="mt-2 space-y-1.5">
      {file.kind === "jsonl" && (
        <p>
          {t.rich("values_are_written", {
            part: () =>
              part(
                t("how_values_are_written"),
                plan.as_typed ? "typed" : CANONICAL,
                SPELLINGS,
                (value) => onChange({ as_typed: value !== CANONICAL }),
              ),
          })}
        </p>
      )}
      {(file.kind !== "jsonl" || plan.as_typed) && (
        <p>
          {t.rich("numbers_are_written_days", {
            part: () =>
              part(t("how_numbers_are_written"), plan.decimal_mark, MARKS, (value) =>
                onChange({ decimal_mark: marked<"point" | "comma">(value) }),
              ),
            part2: () =>
              part(t("how_days_are_written"), plan.date_order, ORDERS, (value) =>
                onChange({ date_order: marked<"day_first" | "month_first" | "year_first">(value) }),
              ),
          })}{" "}
          {file.kind === "csv" &&
            t.rich("its_letters_are_written_in", {
              part: () =>
                part("Encoding", plan.part, ENCODINGS, (value) =>
                  onChange({ part: value === "utf-8" ? null : value }),
                ),
            })}{" "}
          {preview.sheets.length > 1 &&
            t.rich("it_is_the_sheet", {
              part: () =>
                part(
                  "Sheet",
                  plan.part,
                  preview.sheets.map((name) => ({ value: name, label: name })),
                  (value) => onChange({ part: value }),
                ),
            })}
        </p>
      )}
      {(preview.decimal_mark_open || preview.date_order_open) && (
        <p role="status" className="border-l-4 border-ochre bg-tint px-3 py-1">
          {t("look_whether_it_is_as_it_was", {
            decimal_mark_open: String(Boolean(preview.decimal_mark_open)),
            date_order_open: String(Boolean(preview.date_order_open)),
          })}
        </p>
      )}
      <p>
        {t.rich("each_row_is_as", {
          part: () =>
            part(
              t("what_is_done_with_a_row"),
              plan.submit ? "submit" : "save",
              [
                { value: "save", label: t("saved") },
                { value: "submit", label: t("submitted") },
              ],
              (value) => onChange({ submit: value === "submit" }),
            ),
          part2: () =>
            part(
              t("which_record_a_row_is"),
              plan.update_by ?? NEW,
              [
                { value: NEW, label: t("a_new_record") },
                ...preview.unique.map(({ key, label }) => ({
                  value: key,
                  label: t("a_change_to_the_record_of_the", { label }),
                })),
              ],
              (value) => onChange({ update_by: value === NEW ? null : value }),
            ),
        })}
      </p>
      <Tick checked={plan.starting ?? true} onChange={(starting) => onChange({ starting })}>
        {t("in_new_records_fields_without_a_column")}
      </Tick>
    </div>
  );
}
