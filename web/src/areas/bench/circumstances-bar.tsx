// When, where and by whom the record is sent in, as one sentence whose parts open.
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { answer, client } from "../../api/client";
import { ChoicePart } from "../../ui/choice-part";
import { counted } from "../../ui/counts";
import { DayInput } from "../../ui/day-input";
import { dayFrom } from "../../ui/written";
import { WAYS } from "../form/entry-points";
import { type BenchForm, type Circumstances, USUAL } from "./trying";

type Props = {
  form: BenchForm;
  value: Circumstances;
  onChange: (change: Partial<Circumstances>) => void;
};

const NONE = " ";

function options(pairs: [string, string][]) {
  return [{ options: pairs.map(([value, label]) => ({ value, label })) }];
}

export function CircumstancesBar({ form, value, onChange }: Props) {
  // While a day is being typed the one before it counts.
  const [asOf, setAsOf] = useState(value.asOf ?? "");
  const [known, setKnown] = useState(value.asOf);
  if (known !== value.asOf) {
    setKnown(value.asOf);
    if ((dayFrom(asOf) ? asOf : null) !== value.asOf) setAsOf(value.asOf ?? "");
  }
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
        groups={[{ options: WAYS }]}
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
      as of{" "}
      <DayInput
        label="As of"
        className="part w-36"
        placeholder="today"
        value={asOf}
        onChange={(day) => {
          setAsOf(day);
          if (day === "" || dayFrom(day)) onChange({ asOf: day || null });
        }}
      />
      {value.off.length > 0 && (
        <span className="text-ochre">
          without {counted(value.off.length, "rule")}{" "}
          <button type="button" className="underline" onClick={() => onChange({ off: USUAL.off })}>
            switch on again
          </button>
        </span>
      )}
    </p>
  );
}

/** The stored record that is changed, with the values it held before. */
function RecordPart({ form, value, onChange }: Props) {
  const found = useQuery({
    queryKey: ["records", form.key, "for the bench"],
    queryFn: () =>
      answer(
        client.GET("/api/v1/forms/{form_key}/records", {
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
