// Cases drafted by the machine, each with its reason; the steward chooses which to keep.
import { useState } from "react";
import { useNavigate } from "react-router";
import type { Schemas } from "../../api/client";
import { Button } from "../../ui/button";
import { Facet, LEVEL_COLOUR } from "../../ui/facet";
import { Tick } from "../../ui/inputs";
import { useNotify } from "../../ui/notices";
import { Sheet } from "../../ui/sheet";
import { Trouble } from "../../ui/trouble";
import { writtenNumber } from "../../ui/written";
import { words } from "../../words";
import type { FormView } from "../form/form";
import { levelOf, OUTCOME_WORDS } from "../form/outcomes";
import { type Technique, useDrafted, useKeepSeveral } from "./queries";

const t = words("cases");

const TECHNIQUES: [Technique, string, string][] = [
  ["both", t("both_ways"), t("every_rule_seen_violated_and_seen_met")],
  ["boundary", "Bounds", t("the_values_on_and_beside_each_bound")],
  ["blank", "Blank", t("what_every_new_record_starts_with")],
  ["choice", t("each_choice"), t("every_answer_at_least_once")],
  ["pairs", "Pairs", t("every_two_answers_of_two_governing_fields")],
  ["parts", "Parts", t("each_part_of_a_condition_shown_to")],
];

type Props = { form: FormView; open: boolean; onOpenChange: (open: boolean) => void };

export function DraftedSheet({ form, open, onOpenChange }: Props) {
  const [technique, setTechnique] = useState<Technique>("both");
  const [values, setValues] = useState<2 | 3>(2);
  return (
    <Sheet title={t("draft_cases_2")} wide open={open} onOpenChange={onOpenChange}>
      <fieldset className="grid grid-cols-2 gap-x-6 gap-y-0.5 border-b border-hairline pb-3 lg:grid-cols-3">
        <legend className="sr-only">{t("technique")}</legend>
        {TECHNIQUES.map(([key, name, what]) => (
          <label key={key} className="flex items-baseline gap-2">
            <input
              type="radio"
              name="technique"
              className="size-4 translate-y-0.5 accent-thistle"
              checked={technique === key}
              onChange={() => setTechnique(key)}
            />
            <span>
              {name} <span className="block text-sm text-muted">{what}</span>
            </span>
          </label>
        ))}
      </fieldset>
      {technique === "boundary" && (
        <div className="pt-2">
          <Tick checked={values === 3} onChange={(three) => setValues(three ? 3 : 2)}>
            {t("three_values_at_each_bound_one_step")}
          </Tick>
        </div>
      )}
      <Found
        key={`${technique}-${values}`}
        form={form}
        technique={technique}
        values={values}
        onDone={() => onOpenChange(false)}
      />
    </Sheet>
  );
}

type FoundProps = {
  form: FormView;
  technique: Technique;
  values: 2 | 3;
  onDone: () => void;
};

function Found({ form, technique, values, onDone }: FoundProps) {
  const drafted = useDrafted(form.key, technique, values);
  const [picked, setPicked] = useState<ReadonlySet<number>>(new Set());
  const [suite, setSuite] = useState(TECHNIQUES.find(([key]) => key === technique)?.[1] ?? "");
  const keep = useKeepSeveral(form.key);
  const notify = useNotify();
  if (drafted.error) return <Trouble error={drafted.error} />;
  if (!drafted.data) return <p className="py-4 text-muted">{t("searching_for_cases")}</p>;
  const chosen = drafted.data.filter((_, place) => picked.has(place));
  if (drafted.data.length === 0)
    return <p className="py-4 text-muted">{t("nothing_to_add_these_cases_exist_already")}</p>;
  const all = picked.size === drafted.data.length;
  return (
    <>
      <div className="flex items-center gap-3 py-2">
        <Tick
          checked={all}
          onChange={(every) =>
            setPicked(every ? new Set(drafted.data.map((_, place) => place)) : new Set())
          }
        >
          {t("all_length", { length: drafted.data.length })}
        </Tick>
        <span className="text-muted">{t("choose_the_cases_to_add_each_expects")}</span>
      </div>
      <ul className="max-h-[30vh] overflow-auto border-y border-hairline">
        {drafted.data.map((one, place) => (
          <Draft
            key={`${one.case.name} ${JSON.stringify(one.case.values)}`}
            form={form}
            drafted={one}
            chosen={picked.has(place)}
            onChoose={() => {
              const next = new Set(picked);
              if (!next.delete(place)) next.add(place);
              setPicked(next);
            }}
          />
        ))}
      </ul>
      <Trouble error={keep.error} />
      <div className="mt-3 flex items-end gap-3">
        <label>
          <span className="block text-sm text-muted">{t("suite")}</span>
          <input
            className="line-input"
            value={suite}
            onChange={(event) => setSuite(event.target.value)}
          />
        </label>
        <Button
          look="solid"
          busy={chosen.length === 0 || keep.isPending}
          onClick={() =>
            keep.mutate(
              chosen.map((one) => ({ ...one.case, suite })),
              {
                onSuccess: () => {
                  const count = chosen.length;
                  notify({
                    text: t("count_cases_are_kept", { count, countShown: writtenNumber(count) }),
                  });
                  onDone();
                },
              },
            )
          }
        >
          {t("keep_length_cases", { length: chosen.length, count: chosen.length })}
        </Button>
      </div>
    </>
  );
}

type DraftProps = {
  form: FormView;
  drafted: Schemas["DraftedCaseView"];
  chosen: boolean;
  onChoose: () => void;
};

function Draft({ form, drafted, chosen, onChoose }: DraftProps) {
  const navigate = useNavigate();
  const { name, why, expected } = drafted.case;
  return (
    <li className="flex items-start gap-3 border-b border-hairline py-1.5 last:border-b-0">
      <input
        type="checkbox"
        className="mt-1 size-4 shrink-0 accent-thistle"
        aria-label={name}
        checked={chosen}
        onChange={onChoose}
      />
      <span className="min-w-0 grow">
        {name}
        <span className="block text-sm text-muted">{why}</span>
      </span>
      {(["save", "submit"] as const).map((moment) => {
        const level = levelOf(expected[moment] ?? "clear");
        return (
          <span
            key={moment}
            className={`flex w-24 shrink-0 items-center gap-1 text-sm ${LEVEL_COLOUR[level]}`}
          >
            <Facet level={level} size={13} />
            <span className="sr-only">{moment === "save" ? t("saving_2") : t("submitting_2")}</span>
            {OUTCOME_WORDS[expected[moment] ?? "clear"].toLowerCase()}
          </span>
        );
      })}
      <button
        type="button"
        className="min-h-6 shrink-0 text-sm text-thistle hover:underline"
        onClick={() => navigate(`/forms/${form.key}/bench`, { state: { case: drafted.case } })}
      >
        {t("on_the_bench")}
      </button>
    </li>
  );
}
