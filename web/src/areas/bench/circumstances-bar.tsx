// When, where and by whom the record is sent in, as one sentence whose parts open.

import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { answer, client } from "../../api/client";
import { keys } from "../../api/keys";
import { ChoicePart } from "../../ui/choice-part";
import { DayInput } from "../../ui/day-input";
import { dayFrom, writtenNumber } from "../../ui/written";
import { words } from "../../words";
import { WAYS } from "../form/entry-points";
import { type BenchForm, type Circumstances, USUAL } from "./trying";

const t = words("bench");

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
      {t("judged_by")}{" "}
      <ChoicePart
        label={t("judged_by")}
        value={chosen}
        groups={options([[NONE, t("the_draft")], ...releases])}
        onChoose={(next) => onChange({ release: next === NONE ? null : Number(next) })}
      />
      {t("as")}{" "}
      <ChoicePart
        label={t("new_or_changed")}
        value={value.event}
        groups={options([
          ["create", t("a_new_record")],
          ["update", t("a_change_to")],
        ])}
        onChoose={(next) =>
          onChange(
            next === "update" ? { event: "update" } : { event: "create", number: null, stored: {} },
          )
        }
      />
      {value.event === "update" && <RecordPart form={form} value={value} onChange={onChange} />}
      <ChoicePart
        label={t("entry_point")}
        value={value.entryPoint}
        groups={[{ options: WAYS }]}
        onChoose={(next) => onChange({ entryPoint: next as Circumstances["entryPoint"] })}
      />
      {t("by_a")}{" "}
      <ChoicePart
        label={t("role")}
        value={value.role}
        groups={options(form.roles.map((role) => [role, role]))}
        onChoose={(role) => onChange({ role })}
      />
      {form.layouts.length > 0 && (
        <>
          {t("on")}{" "}
          <ChoicePart
            label={t("layout")}
            value={value.layout ?? NONE}
            groups={options([
              [NONE, t("the_whole_form")],
              ...form.layouts.map(({ key, label }) => [key, label] as [string, string]),
            ])}
            onChoose={(next) => onChange({ layout: next === NONE ? null : next })}
          />
        </>
      )}
      {t("as_of")}{" "}
      <DayInput
        label={t("as_of_2")}
        className="part w-36"
        placeholder={t("today")}
        value={asOf}
        onChange={(day) => {
          setAsOf(day);
          if (day === "" || dayFrom(day)) onChange({ asOf: day || null });
        }}
      />
      {value.off.length > 0 && (
        <span className="text-ochre">
          {t("without_count_rules", {
            count: value.off.length,
            countShown: writtenNumber(value.off.length),
          })}{" "}
          <button type="button" className="underline" onClick={() => onChange({ off: USUAL.off })}>
            {t("switch_on_again")}
          </button>
        </span>
      )}
    </p>
  );
}

/** The stored record that is changed, with the values it held before. */
function RecordPart({ form, value, onChange }: Props) {
  const found = useQuery({
    queryKey: keys.benchRecords(form.key),
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
      label={t("the_record_before")}
      value={value.number === null ? NONE : String(value.number)}
      groups={options([
        [NONE, kept ? t("the_record_as_the_case_has_it") : t("an_empty_record")],
        ...records.map(
          ({ number, title }) =>
            [
              String(number),
              title ? t("record_number_title", { number, title }) : t("record_number", { number }),
            ] as [string, string],
        ),
      ])}
      onChoose={(next) =>
        onChange(next === NONE ? { number: null } : { number: Number(next), case: null })
      }
    />
  );
}
