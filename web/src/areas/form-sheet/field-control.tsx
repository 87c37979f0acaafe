// The control of one field, by its type. It reads nothing into what is typed: the server does.
import { createContext, useContext, useId, useState } from "react";
import { WithCalendar } from "../../ui/calendar-button";
import { focusSoon } from "../../ui/focus";
import { dayFrom, isoDay } from "../../ui/written";
import { words } from "../../words";
import { type ControlProps, isWrong, typedValue } from "./control";
import type { Field, Judgement } from "./judging";
import { ReferenceControl, ReferredRecord } from "./reference-control";

const t = words("formSheet");

export function FieldControl(props: ControlProps) {
  switch (props.field.type) {
    case "yes_no":
      return <YesNo {...props} />;
    case "choice":
      return <Choice {...props} choices={props.field.choices} />;
    case "choices":
      return <Choices {...props} field={props.field} />;
    case "reference":
      return <Referring {...props} form={props.field.form} />;
    case "date":
    case "date_time":
      return <Day {...props} />;
    default:
      return <Typed {...props} />;
  }
}

/** Whoever sees no other records writes the number of the one that is meant. */
export const SeesRecords = createContext(true);

function Referring(props: ControlProps & { form: string }) {
  return useContext(SeesRecords) ? <ReferenceControl {...props} /> : <Typed {...props} />;
}

/** A value where nothing is entered: no box, no cursor, not in the order of tabs. */
export function ShownValue({
  field,
  words,
  judged,
}: Pick<ControlProps, "field" | "words" | "judged">) {
  const seesRecords = useContext(SeesRecords);
  // Until the server has said how it reads, it is not called blank.
  if (!judged) return <span className="text-muted">…</span>;
  if (words === undefined) return <span className="text-muted">{t("blank")}</span>;
  if (field.type === "reference" && seesRecords)
    return <ReferredRecord form={field.form} number={words} />;
  return <span className="whitespace-pre-line">{unquoted(field, words)}</span>;
}

/** A text stands here by itself, and needs no marks around it. */
function unquoted(field: Field, words: string) {
  return field.type === "text" && /^“.*”$/s.test(words) ? words.slice(1, -1) : words;
}

const WIDTHS = { short: "w-32", medium: "w-64", full: "w-full" };

export function Typed({
  id,
  field,
  value,
  described,
  hardest,
  onChange,
  onTouch,
  readOnly,
}: ControlProps) {
  const isText = field.type === "text";
  const shared = {
    id,
    className: `line-input ${isText ? WIDTHS[field.width] : "w-44"}`,
    value: typedValue(value),
    placeholder: field.placeholder || undefined,
    readOnly,
    "aria-describedby": described,
    "aria-invalid": isWrong(hardest),
    "data-told": hardest,
    onBlur: onTouch,
    onChange: (event: { target: { value: string } }) => onChange(event.target.value),
  };
  if (isText) return field.long ? <textarea {...shared} rows={3} /> : <input {...shared} />;
  const unit = "unit" in field ? field.unit : null;
  const unitFirst = "unit_first" in field && field.unit_first;
  const isNumber = field.type === "whole_number" || field.type === "decimal";
  return (
    <span className={`flex items-center gap-2 ${unitFirst ? "flex-row-reverse justify-end" : ""}`}>
      <input {...shared} inputMode={isNumber ? "decimal" : "text"} />
      {unit && <span className="text-muted">{unit}</span>}
    </span>
  );
}

/** A day is typed as people write it, and stands as “11 June 2026” once the field is left. */
function Day(props: ControlProps) {
  const { field, value, words, judged, onChange, onTouch, readOnly } = props;
  const [typed, setTyped] = useState<{ text: string; since: Judgement | undefined } | null>(null);
  const [inside, setInside] = useState(false);
  const stands = typed !== null && (inside || judged === typed.since);
  const shown = stands ? typed.text : (words ?? typedValue(value));
  const box = (
    // biome-ignore lint/a11y/noStaticElementInteractions: it only notes whether the field is being typed in
    <span onFocus={() => setInside(true)} onBlur={() => setInside(false)}>
      <Typed
        {...props}
        value={shown}
        onChange={(next) => {
          setTyped({ text: typedValue(next), since: judged });
          onChange(next);
        }}
      />
    </span>
  );
  if (readOnly) return box;
  if (field.type === "date_time")
    return (
      <WithCalendar
        label={field.label}
        value={dayOf(shown)}
        onChoose={(day) => {
          const [clock = NO_CLOCK] = CLOCK.exec(shown) ?? [];
          const text = `${day} ${clock}`;
          setTyped({ text, since: judged });
          onChange(text);
          // The time is what is to be said next.
          const input = document.getElementById(props.id) as HTMLInputElement;
          focusSoon(() => {
            input.setSelectionRange(text.length - clock.length, text.length);
            return input;
          });
        }}
      >
        {box}
      </WithCalendar>
    );
  return (
    <WithCalendar
      label={field.label}
      value={typedValue(value)}
      onChoose={(day) => {
        setTyped(null);
        onChange(day);
        onTouch();
      }}
    >
      {box}
    </WithCalendar>
  );
}

const CLOCK = /\d{1,2}:\d{2}(:\d{2})?$/;
const NO_CLOCK = "00:00";

/** The day within a day and time as it stands in the field, for the calendar to open at. */
function dayOf(shown: string) {
  const day = shown.replace(CLOCK, "").replace(/[,T\s]+$/, "");
  if (dayFrom(day)) return day;
  const read = new Date(day);
  return day === "" || Number.isNaN(read.getTime()) ? "" : isoDay(read);
}

type Option = Extract<Field, { type: "choice" }>["choices"][number];

/** Retired choices are offered only where they are the answer already. */
function offered(choices: Option[], chosen: readonly string[]) {
  return choices.filter((choice) => !choice.retired || chosen.includes(choice.code));
}

function Choice({
  id,
  value,
  choices,
  described,
  hardest,
  onChange,
  onTouch,
  readOnly,
}: ControlProps & { choices: Option[] }) {
  const chosen = typedValue(value);
  return (
    <select
      id={id}
      className="line-input min-w-44"
      value={chosen}
      disabled={readOnly}
      aria-describedby={described}
      aria-invalid={isWrong(hardest)}
      data-told={hardest}
      onBlur={onTouch}
      onChange={(event) => {
        onChange(event.target.value || null);
        onTouch();
      }}
    >
      <option value="">{t("no_answer")}</option>
      {offered(choices, [chosen]).map((choice) => (
        <option key={choice.code} value={choice.code}>
          {choice.label}
        </option>
      ))}
    </select>
  );
}

function inSomeOrder(choices: Option[]) {
  return choices
    .map((choice) => ({ choice, at: Math.random() }))
    .sort((one, other) => one.at - other.at)
    .map(({ choice }) => choice);
}

function Choices({
  id,
  field,
  value,
  described,
  onChange,
  onTouch,
  readOnly,
}: ControlProps & { field: Extract<Field, { type: "choices" }> }) {
  const ticked = Array.isArray(value) ? value : [];
  const [order] = useState(() => (field.shuffled ? inSomeOrder(field.choices) : field.choices));
  return (
    // biome-ignore lint/a11y/useSemanticElements: the label of the row names the group
    <div
      role="group"
      aria-labelledby={`${id}-label`}
      aria-describedby={described}
      className="grid gap-x-5 gap-y-1 py-1"
      style={{ gridTemplateColumns: `repeat(${field.columns}, minmax(0, 1fr))` }}
    >
      {offered(order, ticked).map((choice, position) => (
        <label key={choice.code} className="flex items-center gap-1.5">
          <input
            type="checkbox"
            id={position === 0 ? id : undefined}
            className="size-4 accent-thistle"
            checked={ticked.includes(choice.code)}
            disabled={readOnly}
            onBlur={onTouch}
            onChange={(event) => {
              const others = ticked.filter((code) => code !== choice.code);
              onChange(event.target.checked ? [...others, choice.code] : others);
              onTouch();
            }}
          />
          {choice.label}
        </label>
      ))}
    </div>
  );
}

const ANSWERS: [string, boolean | null][] = [
  ["yes", true],
  ["no", false],
  [t("no_answer"), null],
];

function YesNo({ id, value, described, onChange, onTouch, readOnly }: ControlProps) {
  const name = useId();
  return (
    <div
      role="radiogroup"
      aria-labelledby={`${id}-label`}
      aria-describedby={described}
      className="flex min-h-8 gap-5"
    >
      {ANSWERS.map(([words, answer], position) => (
        <label key={words} className="flex items-center gap-1.5">
          <input
            type="radio"
            id={position === 0 ? id : undefined}
            name={name}
            className="size-4 accent-thistle"
            checked={value === answer}
            disabled={readOnly}
            onBlur={onTouch}
            onChange={() => {
              onChange(answer);
              onTouch();
            }}
          />
          <span className={answer === null ? "text-muted" : ""}>{words}</span>
        </label>
      ))}
    </div>
  );
}
