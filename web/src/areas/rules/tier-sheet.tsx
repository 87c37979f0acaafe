// Tiers of proposals as a table: each row begins where the one before it ends, so they meet.
import { useMutation, useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { answer, client, type Schemas } from "../../api/client";
import { Button } from "../../ui/button";
import { ChoicePart } from "../../ui/choice-part";
import { useNotify } from "../../ui/notices";
import { Sheet } from "../../ui/sheet";
import { Trouble } from "../../ui/trouble";
import { writtenNumber } from "../../ui/written";
import { words } from "../../words";
import { type FormView, oneByOne, useRefresh, useTurn } from "../form/form";

const t = words("rules");

type Tiers = Schemas["Tiers"];
type Row = Tiers["rows"][number];
type Found = Schemas["TiersView"];
type Props = { form: FormView; onClose: () => void };

const NEW_ROW: Row = { upto: "", included: true, value: null, title: "" };

function begun(form: FormView): Tiers {
  const numbers = form.fields.filter(({ field }) => "unit" in field).map(({ field }) => field.key);
  return {
    governor: numbers[0] ?? "",
    field: numbers[1] ?? "",
    title: "",
    begin: "0",
    begin_included: false,
    rows: [{ ...NEW_ROW }, { ...NEW_ROW }],
  };
}

export function TierSheet({ form, onClose }: Props) {
  const found = useQuery({
    queryKey: ["tiers", form.key],
    queryFn: () =>
      answer(
        client.GET("/api/v1/forms/{form_key}/tiers", { params: { path: { form_key: form.key } } }),
      ),
  });
  const [chosen, setChosen] = useState<{ tiers: Tiers; found: Found | null } | null>(null);
  const labelOf = (key: string) =>
    form.fields.find(({ field }) => field.key === key)?.field.label ?? key;
  return (
    <Sheet title={t("tiers_of_proposals")} wide open onOpenChange={(open) => !open && onClose()}>
      <Trouble error={found.error} />
      {chosen ? (
        <Table form={form} start={chosen.tiers} found={chosen.found} onDone={onClose} />
      ) : (
        <>
          <ul>
            {found.data?.map((one) => (
              <li key={one.rules.join()} className="border-t border-hairline">
                <button
                  type="button"
                  className="block w-full px-2 py-2 text-left hover:bg-tint"
                  onClick={() => setChosen({ tiers: one.tiers, found: one })}
                >
                  {t.rich("field_by_governor_in_length_tiers", {
                    i: (chunks) => <i>{chunks}</i>,
                    field: labelOf(one.tiers.field),
                    governor: labelOf(one.tiers.governor),
                    length: one.rules.length,
                  })}
                  {one.findings.map((finding) => (
                    <span key={finding} className="block text-ochre">
                      {finding}
                    </span>
                  ))}
                </button>
              </li>
            ))}
          </ul>
          <Button
            look="solid"
            className="mt-3"
            onClick={() => setChosen({ tiers: begun(form), found: null })}
          >
            {t("a_new_table")}
          </Button>
        </>
      )}
    </Sheet>
  );
}

type TableProps = { form: FormView; start: Tiers; found: Found | null; onDone: () => void };
const ENDS = [
  { value: "yes", label: t("up_to_and_including") },
  { value: "no", label: t("up_to_without") },
];

function Table({ form, start, found, onDone }: TableProps) {
  const [tiers, setTiers] = useState(start);
  const refresh = useRefresh(form.key);
  const notify = useNotify();
  const undo = useTurn(form.key, "undo");
  const store = useMutation({
    scope: oneByOne(form.key),
    mutationFn: () => {
      const versions = form.rules.filter((view) => found?.rules.includes(view.rule.key));
      const replaced = versions.map(({ rule, revision }) => ({ key: rule.key, revision }));
      return answer(
        client.PUT("/api/v1/forms/{form_key}/tiers", {
          params: { path: { form_key: form.key } },
          body: { tiers, replaced },
        }),
      );
    },
    onSuccess: (keys) => {
      refresh();
      notify({
        text: t("the_table_is_stored_as_count_rules", {
          count: keys.length,
          countShown: writtenNumber(keys.length),
        }),
        undo: () => undo.mutate(),
      });
      onDone();
    },
  });
  const numbers = form.fields
    .filter(({ field }) => "unit" in field)
    .map(({ field }) => ({ value: field.key, label: field.label }));
  const fields = form.fields.map(({ field }) => ({ value: field.key, label: field.label }));
  const put = (part: Partial<Tiers>) => setTiers({ ...tiers, ...part });
  const putRow = (index: number, part: Partial<Row>) =>
    put({ rows: tiers.rows.map((row, at) => (at === index ? { ...row, ...part } : row)) });
  const cell = "line-input w-24";
  return (
    <>
      <p className="font-serif text-lg">
        {t("by")}{" "}
        <ChoicePart
          label={t("field_that_decides")}
          italic
          value={tiers.governor}
          groups={[{ options: numbers }]}
          onChoose={(governor) => put({ governor })}
        />
        {t("a_value_is_proposed_for")}{" "}
        <ChoicePart
          label={t("field_proposed_for")}
          italic
          value={tiers.field}
          groups={[{ options: fields }]}
          onChoose={(field) => put({ field })}
        />
      </p>
      <label className="mt-2 flex items-baseline gap-2">
        {t("every_proposal_is_called_unless_it_says")}
        <input
          className="line-input grow"
          spellCheck
          value={tiers.title}
          onChange={(event) => put({ title: event.target.value })}
        />
      </label>
      {found?.findings.map((finding) => (
        <p key={finding} className="text-ochre">
          {t("as_the_rules_are_now_finding", { finding })}
        </p>
      ))}
      <table className="mt-3 w-full">
        <thead>
          <tr className="text-left text-muted *:font-normal">
            <th scope="col">{t("from")}</th>
            <th scope="col">{t("to_2")}</th>
            <th scope="col">{t("proposed")}</th>
            <th scope="col">{t("called_2")}</th>
            <th scope="col">
              <span className="sr-only">{t("remove_2")}</span>
            </th>
          </tr>
        </thead>
        <tbody>
          {tiers.rows.map((row, index) => {
            const before = tiers.rows[index - 1];
            const last = index === tiers.rows.length - 1;
            const number = index + 1;
            return (
              // biome-ignore lint/suspicious/noArrayIndexKey: a row has no identity but its place
              <tr key={index} className="border-t border-hairline *:py-1">
                <td>
                  {before ? (
                    <span className="text-muted">
                      {before.included ? t("over") : t("from_2")}
                      {before.upto || "…"}
                    </span>
                  ) : (
                    <span className="flex items-center gap-1">
                      <ChoicePart
                        label={t("whether_the_lowest_amount_belongs_to_it")}
                        value={tiers.begin_included ? "yes" : "no"}
                        groups={[
                          {
                            options: [
                              { value: "no", label: t("over_2") },
                              { value: "yes", label: t("from_3") },
                            ],
                          },
                        ]}
                        onChoose={(one) => put({ begin_included: one === "yes" })}
                      />
                      <input
                        aria-label={t("lowest_amount")}
                        className="line-input w-24"
                        value={tiers.begin}
                        onChange={(event) => put({ begin: event.target.value })}
                      />
                    </span>
                  )}
                </td>
                <td>
                  <span className="flex items-center gap-1">
                    <ChoicePart
                      label={t("whether_the_end_of_tier_number_belongs", { number })}
                      value={row.included ? "yes" : "no"}
                      groups={[{ options: ENDS }]}
                      onChoose={(one) => putRow(index, { included: one === "yes" })}
                    />
                    <input
                      aria-label={t("end_of_tier_number", { number })}
                      className={cell}
                      placeholder={last ? t("without_end") : ""}
                      value={row.upto}
                      onChange={(event) => putRow(index, { upto: event.target.value })}
                    />
                  </span>
                </td>
                <td>
                  <input
                    aria-label={t("proposed_in_tier_number", { number })}
                    className={cell}
                    placeholder={t("nothing")}
                    value={row.value ?? ""}
                    onChange={(event) => putRow(index, { value: event.target.value || null })}
                  />
                </td>
                <td>
                  <input
                    aria-label={t("what_tier_number_is_called", { number })}
                    className="line-input w-44"
                    spellCheck
                    placeholder={tiers.title}
                    value={row.title}
                    onChange={(event) => putRow(index, { title: event.target.value })}
                  />
                </td>
                <td className="text-right">
                  {tiers.rows.length > 1 && (
                    <Button
                      look="quiet"
                      aria-label={t("remove_tier_number", { number })}
                      onClick={() => put({ rows: tiers.rows.filter((_, at) => at !== index) })}
                    >
                      {t("remove")}
                    </Button>
                  )}
                </td>
              </tr>
            );
          })}
        </tbody>
      </table>
      <Trouble error={store.error} />
      <div className="mt-3 flex gap-2">
        <Button look="solid" busy={store.isPending} onClick={() => store.mutate()}>
          {t("save_table")}
        </Button>
        <Button onClick={() => put({ rows: [...tiers.rows, { ...NEW_ROW }] })}>
          {t("one_more_tier")}
        </Button>
      </div>
    </>
  );
}
