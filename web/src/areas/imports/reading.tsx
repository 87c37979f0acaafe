// How a file is read, and what is done with its rows, as sentences with parts to choose.
import { ChoicePart, type Option } from "../../ui/choice-part";
import { Tick } from "../../ui/inputs";
import type { Plan, Preview, RecordFile } from "./queries";

type Props = {
  file: RecordFile;
  preview: Preview;
  plan: Plan;
  onChange: (part: Partial<Plan>) => void;
};

const AS_FIELDS = "fields";
const NEW = "new";
const MARKS: Option[] = [
  { value: AS_FIELDS, label: "as each field says" },
  { value: "point", label: "with a decimal point" },
  { value: "comma", label: "with a decimal comma" },
];
const ORDERS: Option[] = [
  { value: AS_FIELDS, label: "as each field says" },
  { value: "day_first", label: "day first (31/12/2026)" },
  { value: "month_first", label: "month first (12/31/2026)" },
  { value: "year_first", label: "year first (2026/12/31)" },
];
const CANONICAL = "canonical";
const SPELLINGS: Option[] = [
  { value: CANONICAL, label: "in canonical form, as the service takes them" },
  { value: "typed", label: "as people type them" },
];
const ENCODINGS: Option[] = [
  { value: "utf-8", label: "UTF-8" },
  { value: "windows-1252", label: "Western European (Windows-1252)" },
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
          Values are written{" "}
          {part("How values are written", plan.as_typed ? "typed" : CANONICAL, SPELLINGS, (value) =>
            onChange({ as_typed: value !== CANONICAL }),
          )}
          .
        </p>
      )}
      {(file.kind !== "jsonl" || plan.as_typed) && (
        <p>
          Numbers are written{" "}
          {part("How numbers are written", plan.decimal_mark, MARKS, (value) =>
            onChange({ decimal_mark: marked<"point" | "comma">(value) }),
          )}
          , days{" "}
          {part("How days are written", plan.date_order, ORDERS, (value) =>
            onChange({ date_order: marked<"day_first" | "month_first" | "year_first">(value) }),
          )}
          .
          {file.kind === "csv" && (
            <>
              {" "}
              Its letters are written in{" "}
              {part("Encoding", plan.part, ENCODINGS, (value) =>
                onChange({ part: value === "utf-8" ? null : value }),
              )}
              .
            </>
          )}
          {preview.sheets.length > 1 && (
            <>
              {" "}
              It is the sheet{" "}
              {part(
                "Sheet",
                plan.part,
                preview.sheets.map((name) => ({ value: name, label: name })),
                (value) => onChange({ part: value }),
              )}
              .
            </>
          )}
        </p>
      )}
      {(preview.decimal_mark_open || preview.date_order_open) && (
        <p role="status" className="border-l-4 border-ochre bg-tint px-3 py-1">
          {preview.decimal_mark_open && "Its numbers can be read in more than one way. "}
          {preview.date_order_open && "Its days can be read in more than one way. "}
          Look whether it is as it was meant.
        </p>
      )}
      <p>
        Each row is{" "}
        {part(
          "What is done with a row",
          plan.submit ? "submit" : "save",
          [
            { value: "save", label: "saved" },
            { value: "submit", label: "submitted" },
          ],
          (value) => onChange({ submit: value === "submit" }),
        )}{" "}
        as{" "}
        {part(
          "Which record a row is",
          plan.update_by ?? NEW,
          [
            { value: NEW, label: "a new record" },
            ...preview.unique.map(({ key, label }) => ({
              value: key,
              label: `a change to the record of the same ${label}, or else a new one`,
            })),
          ],
          (value) => onChange({ update_by: value === NEW ? null : value }),
        )}
        .
      </p>
      <Tick checked={plan.starting ?? true} onChange={(starting) => onChange({ starting })}>
        In new records, fields without a column begin as at the desk
      </Tick>
    </div>
  );
}
