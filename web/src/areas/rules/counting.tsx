// For whom and when a rule counts: which records, roles, entry points, layouts, changes and days.
import { STORING_ROLES } from "../../api/lists";
import { ChoicePart } from "../../ui/choice-part";
import { DayInput } from "../../ui/day-input";
import { Tick } from "../../ui/inputs";
import { ListInput } from "../../ui/list-input";
import { PLACES } from "../form/entry-points";
import type { FormView } from "../form/form";
import type { Rule } from "../form/rule";

type Common = Pick<Rule, "scope" | "in_force_from" | "in_force_to" | "changed_fields">;
type Props = { form: FormView; rule: Rule; onChange: (part: Partial<Common>) => void };

const BOTH = "both";
const EVENTS = [
  { value: BOTH, label: "new and changed records" },
  { value: "create", label: "new records only" },
  { value: "update", label: "changed records only" },
];
const ROLES = STORING_ROLES.map((role) => ({ value: role, label: role }));

export function Counting({ form, rule, onChange }: Props) {
  const { scope } = rule;
  const event = scope.events.length === 1 ? (scope.events[0] ?? BOTH) : BOTH;
  const put = (part: Partial<Rule["scope"]>) => onChange({ scope: { ...scope, ...part } });
  const layouts = form.setup.layouts.map(({ key, label }) => ({ value: key, label }));
  return (
    <div className="mt-1 flex flex-wrap items-baseline gap-x-1.5">
      <span>It counts for</span>
      <ChoicePart
        label="Which records it counts for"
        value={event}
        groups={[{ options: EVENTS }]}
        onChoose={(chosen) =>
          put({ events: chosen === BOTH ? [] : [chosen as "create" | "update"] })
        }
      />
      <span>stored by</span>
      <ListInput
        label="Roles it counts for"
        empty="everybody"
        values={scope.roles}
        options={ROLES}
        onChange={(roles) => put({ roles })}
      />
      <span>at</span>
      <ListInput
        label="Entry points it counts at"
        empty="any entry point"
        values={scope.entry_points}
        options={PLACES}
        onChange={(entry_points) =>
          put({ entry_points: entry_points as Rule["scope"]["entry_points"] })
        }
      />
      {layouts.length > 0 && (
        <>
          <span>on</span>
          <ListInput
            label="Layouts it counts on"
            empty="every layout"
            values={scope.layouts}
            options={layouts}
            onChange={(chosen) => put({ layouts: chosen })}
          />
        </>
      )}
      <span className="-ml-1.5">, when</span>
      <ListInput
        label="Fields whose change it waits for"
        empty="anything is stored"
        italic={rule.changed_fields.length > 0}
        values={rule.changed_fields}
        options={form.fields.map((f) => ({ value: f.field.key, label: f.field.label }))}
        onChange={(changed_fields) => onChange({ changed_fields })}
      />
      {rule.changed_fields.length > 0 && <span>changes</span>}
      <span className="-ml-1.5">,</span>
      <DayInput
        label="in force from"
        labelShown
        placeholder="any day"
        value={rule.in_force_from ?? ""}
        onChange={(day) => onChange({ in_force_from: day || null })}
      />
      <DayInput
        label="until"
        labelShown
        placeholder="any day"
        value={rule.in_force_to ?? ""}
        onChange={(day) => onChange({ in_force_to: day || null })}
      />
      <Tick checked={scope.derived_forms} onChange={(derived_forms) => put({ derived_forms })}>
        on derived forms too
      </Tick>
    </div>
  );
}
