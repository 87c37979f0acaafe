// Tiers of proposals as a table: each row begins where the one before it ends, so they meet.

import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { answer, client, type Schemas } from "../../api/client";
import { keys } from "../../api/keys";
import { Button } from "../../ui/button";
import { ChoicePart } from "../../ui/choice-part";
import { Sheet } from "../../ui/sheet";
import { Trouble } from "../../ui/trouble";
import { writtenNumber } from "../../ui/written";
import { words } from "../../words";
import { useDraftAct } from "../form/draft-act";
import type { FormView } from "../form/form";
import { NEW_ROW, TierRows, type Tiers } from "./tier-rows";

const t = words("rules");

type Found = Schemas["TiersView"];
type Props = { form: FormView; onClose: () => void };

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
    queryKey: keys.tiers(form.key),
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
function Table({ form, start, found, onDone }: TableProps) {
  const [tiers, setTiers] = useState(start);
  const store = useDraftAct(form.key, {
    act: () => {
      const versions = form.rules.filter((view) => found?.rules.includes(view.rule.key));
      const replaced = versions.map(({ rule, revision }) => ({ key: rule.key, revision }));
      return answer(
        client.PUT("/api/v1/forms/{form_key}/tiers", {
          params: { path: { form_key: form.key } },
          body: { tiers, replaced },
        }),
      );
    },
    notice: ({ length }) =>
      t("the_table_is_stored_as_count_rules", { count: length, countShown: writtenNumber(length) }),
    undo: true,
    done: onDone,
  });
  const numbers = form.fields
    .filter(({ field }) => "unit" in field)
    .map(({ field }) => ({ value: field.key, label: field.label }));
  const fields = form.fields.map(({ field }) => ({ value: field.key, label: field.label }));
  const put = (part: Partial<Tiers>) => setTiers({ ...tiers, ...part });
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
      <TierRows tiers={tiers} onChange={put} />
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
