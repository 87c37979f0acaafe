// The form exactly as a clerk meets it: on the bench and at the desk the same.
import { type ReactNode, useId } from "react";
import { Facet, LEVEL_COLOUR, type Level } from "../../ui/facet";
import { FieldControl } from "./field-control";
import {
  type Entered,
  type Field,
  type Judgement,
  messagesOf,
  type Pressed,
  type Told,
  type Values,
} from "./judging";

type Props = {
  fields: Field[];
  values: Values;
  judgement: Judgement | undefined;
  pressed: Pressed;
  onChange: (key: string, value: Entered) => void;
  onTouch: (key: string) => void;
  readOnly?: boolean;
  pointedAt?: readonly string[];
};

export function FormSheet({
  fields,
  values,
  judgement,
  pressed,
  onChange,
  onTouch,
  readOnly,
  pointedAt = [],
}: Props) {
  const scope = useId();
  const { atField, atTop } = messagesOf(judgement, pressed);
  return (
    <div>
      <div role="status" aria-label="Messages about the whole form">
        {atTop.length > 0 && (
          <ul className="mb-3 border-y border-hairline py-2">
            {atTop.map((told) => (
              <Message key={`${told.rule}-${told.text}`} told={told}>
                {told.field && (
                  <a className="underline" href={`#${scope}-${told.field}`}>
                    {fields.find((field) => field.key === told.field)?.label}
                  </a>
                )}
              </Message>
            ))}
          </ul>
        )}
      </div>
      {fields.map((field) => (
        <FieldRow
          key={field.key}
          id={`${scope}-${field.key}`}
          field={field}
          value={values[field.key] ?? null}
          told={atField.get(field.key) ?? []}
          mark={judgement?.entry.fields[field.key]?.mark ?? null}
          onChange={(value) => onChange(field.key, value)}
          onTouch={() => onTouch(field.key)}
          readOnly={readOnly ?? false}
          pointed={pointedAt.includes(field.key)}
        />
      ))}
    </div>
  );
}

type Mark = NonNullable<Judgement["entry"]["fields"][string]["mark"]>;

type RowProps = {
  id: string;
  field: Field;
  value: Entered;
  told: Told[];
  mark: Mark | null;
  onChange: (value: Entered) => void;
  onTouch: () => void;
  readOnly: boolean;
  pointed: boolean;
};

const MARK_WORDS = {
  demanded: { entry: "", save: "needed to save", submit: "needed to submit" },
  expected: { entry: "wanted", save: "wanted", submit: "wanted" },
};

function hardestOf(told: Told[]) {
  const said = told.map((one) => one.severity);
  return (["block", "warn", "note"] as const).find((severity) => said.includes(severity));
}

function FieldRow({ id, field, told, mark, pointed, ...control }: RowProps) {
  const messages = `${id}-messages`;
  const hint = `${id}-hint`;
  return (
    <div
      className={`grid grid-cols-[11.5rem_1fr] gap-x-4 border-b border-hairline py-2 ${pointed ? "bg-tint" : ""}`}
    >
      <div className="pt-1.5">
        <label htmlFor={id} id={`${id}-label`} className="block leading-snug">
          {field.label}
        </label>
        {mark && (
          <span className="flex items-center gap-1 text-sm text-muted">
            <Facet level={mark.kind === "demanded" ? "block" : "note"} size={11} />
            {MARK_WORDS[mark.kind][mark.moment]}
          </span>
        )}
      </div>
      <div>
        <FieldControl
          id={id}
          field={field}
          described={`${hint} ${messages}`}
          hardest={hardestOf(told)}
          {...control}
        />
        <p id={hint} className="text-sm text-muted empty:hidden">
          {field.hint}
        </p>
        <ul id={messages} aria-live="polite">
          {told.map((one) => (
            <Message key={`${one.rule}-${one.text}`} told={one} />
          ))}
        </ul>
      </div>
    </div>
  );
}

function Message({ told, children }: { told: Told; children?: ReactNode }) {
  const level = told.severity as Level;
  return (
    <li className={`mt-0.5 flex items-start gap-1.5 ${LEVEL_COLOUR[level]}`}>
      <span className="mt-px">
        <Facet level={level} size={14} />
      </span>
      <span>
        <span className="sr-only">{level}: </span>
        {told.text} {children}
      </span>
    </li>
  );
}
