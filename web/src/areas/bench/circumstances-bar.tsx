// When, where and by whom the record is sent in, as one sentence whose parts open.
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { answer, client } from "../../api/client";
import { ChoicePart } from "../../ui/choice-part";
import { type BenchForm, type Circumstances, USUAL } from "./trying";

type Props = {
  form: BenchForm;
  value: Circumstances;
  onChange: (change: Partial<Circumstances>) => void;
};

const NONE = " ";
const ENTRY_POINTS: [Circumstances["entryPoint"], string][] = [
  ["desk", "at the desk"],
  ["handheld", "on a hand-held"],
  ["link", "through a link"],
  ["import", "by import"],
  ["service", "by a service"],
];

function options(pairs: [string, string][]) {
  return [{ options: pairs.map(([value, label]) => ({ value, label })) }];
}

export function CircumstancesBar({ form, value, onChange }: Props) {
  const releases = form.releases.map(
    ({ number, note }) => [String(number), `release ${number}: ${note}`] as [string, string],
  );
  const chosen = value.release === null ? NONE : String(value.release);
  return (
    <p className="flex flex-wrap items-baseline gap-x-1.5 gap-y-1 border-b border-hairline py-2">
      Judged by{" "}
      <ChoicePart
        label="Judged by"
        value={chosen}
        groups={options([[NONE, "the draft"], ...releases])}
        onChoose={(next) => onChange({ release: next === NONE ? null : Number(next) })}
      />
      as{" "}
      <ChoicePart
        label="New or changed"
        value={value.event}
        groups={options([
          ["create", "a new record"],
          ["update", "a change to"],
        ])}
        onChoose={(next) =>
          onChange(
            next === "update" ? { event: "update" } : { event: "create", number: null, stored: {} },
          )
        }
      />
      {value.event === "update" && <RecordPart form={form} value={value} onChange={onChange} />}
      <ChoicePart
        label="Entry point"
        value={value.entryPoint}
        groups={options(ENTRY_POINTS)}
        onChoose={(next) => onChange({ entryPoint: next as Circumstances["entryPoint"] })}
      />
      by a{" "}
      <ChoicePart
        label="Role"
        value={value.role}
        groups={options(form.roles.map((role) => [role, role]))}
        onChoose={(role) => onChange({ role })}
      />
      {form.layouts.length > 0 && (
        <>
          on{" "}
          <ChoicePart
            label="Layout"
            value={value.layout ?? NONE}
            groups={options([
              [NONE, "the whole form"],
              ...form.layouts.map(({ key, label }) => [key, label] as [string, string]),
            ])}
            onChoose={(next) => onChange({ layout: next === NONE ? null : next })}
          />
        </>
      )}
      <AsOf value={value.asOf} onChange={(asOf) => onChange({ asOf })} />
      {value.off.length > 0 && (
        <span className="text-ochre">
          without {value.off.length} {value.off.length === 1 ? "rule" : "rules"}{" "}
          <button type="button" className="underline" onClick={() => onChange({ off: USUAL.off })}>
            switch on again
          </button>
        </span>
      )}
    </p>
  );
}

/** The day that counts as today: blank, or written as 2026-06-12. */
function AsOf({
  value,
  onChange,
}: {
  value: string | null;
  onChange: (day: string | null) => void;
}) {
  const [text, setText] = useState(value ?? "");
  const [shown, setShown] = useState(value);
  if (shown !== value) {
    setShown(value);
    setText(value ?? "");
  }
  const isDay = /^\d{4}-\d{2}-\d{2}$/.test(text) && !Number.isNaN(Date.parse(text));
  return (
    <label className="flex items-baseline gap-1.5">
      as of
      <input
        className="part w-28"
        aria-label="As of"
        placeholder="today"
        value={text}
        aria-invalid={text !== "" && !isDay}
        aria-describedby="as-of-hint"
        onChange={(event) => {
          const next = event.target.value.trim();
          setText(next);
          const day = /^\d{4}-\d{2}-\d{2}$/.test(next) && !Number.isNaN(Date.parse(next));
          if (next === "" || day) {
            setShown(next || null);
            onChange(next || null);
          }
        }}
      />
      <span id="as-of-hint" className="text-sm text-ochre empty:hidden">
        {text !== "" && !isDay ? "write the day as 2026-06-12" : ""}
      </span>
    </label>
  );
}

/** The stored record that is changed, with the values it held before. */
function RecordPart({ form, value, onChange }: Props) {
  const found = useQuery({
    queryKey: ["records", form.key, "for the bench"],
    queryFn: () =>
      answer(
        client.GET("/api/forms/{form_key}/records", {
          params: { path: { form_key: form.key } },
        }),
      ),
  });
  const records = found.data?.records ?? [];
  const kept = Object.keys(value.stored).length > 0;
  return (
    <ChoicePart
      label="The record before"
      value={value.number === null ? NONE : String(value.number)}
      groups={options([
        [NONE, kept ? "the record as the case has it" : "an empty record"],
        ...records.map(
          ({ number, title }) =>
            [String(number), title ? `record ${number}, ${title}` : `record ${number}`] as [
              string,
              string,
            ],
        ),
      ])}
      onChoose={(next) =>
        onChange(next === NONE ? { number: null } : { number: Number(next), case: null })
      }
    />
  );
}
