// The values of a starter, by field, as people type them.
import type { Schemas } from "../../api/client";
import { Button } from "../../ui/button";
import { ChoicePart } from "../../ui/choice-part";
import { DayInput } from "../../ui/day-input";
import type { FormView } from "../form/form";
import { answersOf } from "../rules/operand-part";

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
            <i>{label}</i> is
            {answers ? (
              <ChoicePart
                label={`Value of ${label} in ${starter.label}`}
                value={value}
                placeholder="which answer?"
                groups={[{ options: answers.map((a) => ({ value: a.value, label: a.label })) }]}
                onChoose={(next) => put({ ...starter.values, [key]: next })}
              />
            ) : view?.field.type === "date" ? (
              <DayInput
                label={`Value of ${label} in ${starter.label}`}
                value={value}
                onChange={(next) => put({ ...starter.values, [key]: next })}
              />
            ) : (
              <input
                aria-label={`Value of ${label} in ${starter.label}`}
                className="line-input w-56"
                value={value}
                onChange={(event) => put({ ...starter.values, [key]: event.target.value })}
              />
            )}
            <Button
              look="quiet"
              aria-label={`Remove ${label} from ${starter.label}`}
              onClick={() => put(Object.fromEntries(given.filter(([one]) => one !== key)))}
            >
              remove
            </Button>
          </li>
        );
      })}
      <li>
        <ChoicePart
          label={`One more field of ${starter.label}`}
          value=""
          placeholder="and one more field …"
          groups={[
            { options: free.map(({ field }) => ({ value: field.key, label: field.label })) },
          ]}
          onChoose={(key) => put({ ...starter.values, [key]: "" })}
        />
      </li>
    </ul>
  );
}
