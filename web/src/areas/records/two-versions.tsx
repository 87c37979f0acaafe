// Somebody else has stored the record meanwhile: both versions side by side, field by field.

import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { answer, client } from "../../api/client";
import { keys } from "../../api/keys";
import { Button } from "../../ui/button";
import { Trouble } from "../../ui/trouble";
import { writtenMoment } from "../../ui/written";
import { words } from "../../words";
import type { Entered, Values } from "../form-sheet/judging";
import { changedBy, type Difference } from "./versions";

const t = words("records");

type Side = "mine" | "theirs";
export type Settled = {
  values: Values;
  revision: number;
  /** Whether all of it is what is stored. */
  allTheirs: boolean;
};

type Props = {
  formKey: string;
  number: number;
  values: Values;
  /** What the record held when it was opened here. */
  opened: Values | undefined;
  onSettled: (settled: Settled) => void;
};

function useDifferences(formKey: string, number: number, values: Values) {
  return useQuery({
    queryKey: keys.recordDifferences(formKey, number, values),
    queryFn: () =>
      answer(
        client.POST("/api/v1/forms/{form_key}/records/{number}/differences", {
          params: { path: { form_key: formKey, number } },
          body: { values },
        }),
      ),
    staleTime: 0,
    gcTime: 0,
  });
}

type StrandedProps = { formKey: string; number: number; values: Values; onDrop: () => void };

/** What was being typed when the record came to rest: it can no longer be stored as it is. */
export function Stranded({ formKey, number, values, onDrop }: StrandedProps) {
  const { data, error } = useDifferences(formKey, number, values);
  if (!data) return <Trouble error={error} />;
  return (
    <section
      aria-label={t("what_you_had_typed")}
      className="my-3 border-l-4 border-ochre bg-tint px-4 py-3 print:hidden"
    >
      <p>
        {data.differences.length === 0
          ? t("what_you_had_typed_is_what_is")
          : t("what_you_had_typed_is_not_stored")}
      </p>
      <ul className="mt-1">
        {data.differences.map(({ field, label, mine, theirs }) => (
          <li key={field}>
            {label}: {mine} <span className="text-muted">{t("stored_theirs", { theirs })}</span>
          </li>
        ))}
      </ul>
      <Button look="quiet" onClick={onDrop}>
        {t("drop_what_i_had_typed")}
      </Button>
    </section>
  );
}

export function TwoVersions({ formKey, number, values, opened, onSettled }: Props) {
  const stored = useDifferences(formKey, number, values);
  const [chosen, choose] = useState<Record<string, Side>>({});
  if (!stored.data) return <Trouble error={stored.error} />;
  const { differences, revision, changed_at } = stored.data;
  const who = stored.data.changed_by ?? "Somebody";
  const sideOf = (one: Difference): Side =>
    chosen[one.field] ?? (changedBy(one, values, opened) === "theirs" ? "theirs" : "mine");
  const all = (side: Side) =>
    choose(Object.fromEntries(differences.map(({ field }) => [field, side])));
  function goOn() {
    const taken = differences.filter((one) => sideOf(one) === "theirs");
    onSettled({
      values: {
        ...values,
        ...Object.fromEntries(taken.map(({ field, value }) => [field, value as Entered])),
      },
      revision,
      allTheirs: taken.length === differences.length,
    });
  }
  return (
    <section
      data-focus="self"
      tabIndex={-1}
      aria-label={t("two_versions_of_this_record")}
      className="my-3 border-l-4 border-ochre bg-tint px-4 py-3 outline-offset-4"
    >
      <h3 className="text-lg font-semibold">
        {t("who_has_changed_this_record_since_you", { who })}
      </h3>
      <p>
        {differences.length === 0
          ? t("what_is_on_your_screen_is_what")
          : t("nothing_is_stored_over_it_choose_for")}
      </p>
      {differences.length > 0 && (
        <table className="mt-2 w-full bg-leaf">
          <thead className="text-left text-muted">
            <tr className="border-b border-hairline *:px-2 *:py-1 *:font-normal">
              <th scope="col">{t("field")}</th>
              <th scope="col">{t("on_your_screen")}</th>
              <th scope="col">
                {t("stored_by_who_changed_at", { who, changed_at: writtenMoment(changed_at) })}
              </th>
            </tr>
          </thead>
          <tbody>
            {differences.map((one) => (
              <Row
                key={one.field}
                one={one}
                side={sideOf(one)}
                whose={changedBy(one, values, opened)}
                onChoose={(side) => choose({ ...chosen, [one.field]: side })}
              />
            ))}
          </tbody>
        </table>
      )}
      <div className="mt-3 flex flex-wrap gap-2">
        <Button look="solid" onClick={goOn}>
          {t("go_on_with_what_is_chosen")}
        </Button>
        {differences.length > 1 && (
          <>
            <Button look="quiet" onClick={() => all("mine")}>
              {t("choose_all_on_my_screen")}
            </Button>
            <Button look="quiet" onClick={() => all("theirs")}>
              {t("choose_all_that_is_stored")}
            </Button>
          </>
        )}
      </div>
    </section>
  );
}

type RowProps = {
  one: Difference;
  side: Side;
  whose: ReturnType<typeof changedBy>;
  onChoose: (side: Side) => void;
};

function Row({ one, side, whose, onChoose }: RowProps) {
  return (
    <tr className="border-b border-hairline align-top *:px-2 *:py-1">
      <th scope="row" className="text-left font-normal">
        {one.label}
        {whose === "both" && (
          <span className="block text-sm text-ochre">{t("changed_by_both")}</span>
        )}
      </th>
      {(["mine", "theirs"] as const).map((which) => (
        <td key={which} className={side === which ? "" : "text-muted"}>
          <label className="flex items-start gap-1.5">
            <input
              type="radio"
              name={`side-${one.field}`}
              className="mt-1 size-4 accent-thistle"
              aria-label={`${one.label}: ${which === "mine" ? t("on_your_screen_2") : "stored"}, ${one[which]}`}
              checked={side === which}
              onChange={() => onChoose(which)}
            />
            {one[which]}
          </label>
        </td>
      ))}
    </tr>
  );
}
