// For whom and when a rule counts: new or changed records, roles, and the days it is in force.
import { ChoicePart } from "../../ui/choice-part";
import { writtenDay } from "../../ui/dates";
import type { AnyRule, Rule } from "./draft";
import { ListInput } from "./list-input";

type Props = { rule: Rule; onChange: (part: Partial<Rule>) => void };

const BOTH = "both";
const EVENTS = [
  { value: BOTH, label: "new and changed records" },
  { value: "create", label: "new records only" },
  { value: "update", label: "changed records only" },
];
const ROLES = ["steward", "clerk", "approver"].map((role) => ({ value: role, label: role }));

/** The words in which the register says that a rule does not count always and for all. */
export function countingWords({ scope, in_force_from: from, in_force_to: to }: AnyRule) {
  const event = EVENTS.find((one) => one.value === scope.events[0]);
  return [
    scope.events.length === 1 && `for ${event?.label}`,
    scope.roles.length > 0 && `for ${scope.roles.join(", ")}`,
    from && `from ${writtenDay(from)}`,
    to && `until ${writtenDay(to)}`,
  ]
    .filter(Boolean)
    .join(", ");
}

export function Counting({ rule, onChange }: Props) {
  const { scope } = rule;
  const event = scope.events.length === 1 ? (scope.events[0] ?? BOTH) : BOTH;
  return (
    <div className="mt-1 flex flex-wrap items-baseline gap-x-1.5">
      <span>It counts for</span>
      <ChoicePart
        label="Which records it counts for"
        value={event}
        groups={[{ options: EVENTS }]}
        onChoose={(chosen) =>
          onChange({
            scope: { ...scope, events: chosen === BOTH ? [] : [chosen as "create" | "update"] },
          })
        }
      />
      <span>stored by</span>
      <ListInput
        label="Roles it counts for"
        empty="everybody"
        values={scope.roles}
        options={ROLES}
        onChange={(roles) => onChange({ scope: { ...scope, roles } })}
      />
      <label className="flex items-baseline gap-1.5">
        from
        <input
          type="date"
          className="line-input"
          value={rule.in_force_from ?? ""}
          onChange={(change) => onChange({ in_force_from: change.target.value || null })}
        />
      </label>
      <label className="flex items-baseline gap-1.5">
        until
        <input
          type="date"
          className="line-input"
          value={rule.in_force_to ?? ""}
          onChange={(change) => onChange({ in_force_to: change.target.value || null })}
        />
      </label>
    </div>
  );
}
