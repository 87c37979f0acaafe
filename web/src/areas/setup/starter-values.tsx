// The values of a starter, by field, as people type them.
import type { Schemas } from "../../api/client";
import { Button } from "../../ui/button";
import { ChoicePart } from "../../ui/choice-part";
import { DayInput } from "../../ui/day-input";
import { words } from "../../words";
import type { FormView } from "../form/form";
import { answersOf } from "../rules/operand-part";

const t = words("setup");

type Starter = Schemas["Starter"];
type Props = { form: FormView; starter: Starter; onChange: (starter: Starter) => void };

export function StarterValues({ form, starter, onChange }: Props) {
  const given = Object.entries(starter.values);
  const put = (values: Record<string, string>) => onChange({ ...starter, values });
  const free = form.fields.filter(({ field }) => !(field.key in starter.values));
  return (
    <ul className="pl-4">
      {given.map(([key, value]) => {
        const view = form.fields.find(({ field }) => field.key === key);
        const label = view?.field.label ?? key;
        const answers = view && answersOf(view);
        return (
          <li key={key} className="flex items-baseline gap-2 py-0.5">
            {t.rich("label_is", { i: (chunks) => <i>{chunks}</i>, label })}
            {answers ? (
              <ChoicePart
                label={t("value_of_label_in_label2", { label, label2: starter.label })}
                value={value}
                placeholder={t("which_answer")}
                groups={[{ options: answers.map((a) => ({ value: a.value, label: a.label })) }]}
                onChoose={(next) => put({ ...starter.values, [key]: next })}
              />
            ) : view?.field.type === "date" ? (
              <DayInput
                label={t("value_of_label_in_label2", { label, label2: starter.label })}
                value={value}
                onChange={(next) => put({ ...starter.values, [key]: next })}
              />
            ) : (
              <input
                aria-label={t("value_of_label_in_label2", { label, label2: starter.label })}
                className="line-input w-56"
                value={value}
                onChange={(event) => put({ ...starter.values, [key]: event.target.value })}
              />
            )}
            <Button
              look="quiet"
              aria-label={t("remove_label_from_label2", { label, label2: starter.label })}
              onClick={() => put(Object.fromEntries(given.filter(([one]) => one !== key)))}
            >
              {t("remove")}
            </Button>
          </li>
        );
      })}
      <li>
        <ChoicePart
          label={t("one_more_field_of_label", { label: starter.label })}
          value=""
          placeholder={t("and_one_more_field")}
          groups={[
            { options: free.map(({ field }) => ({ value: field.key, label: field.label })) },
          ]}
          onChoose={(key) => put({ ...starter.values, [key]: "" })}
        />
      </li>
    </ul>
  );
}
