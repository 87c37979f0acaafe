// For whom and when a rule counts: which records, roles, entry points, layouts, changes and days.
import { STORING_ROLES } from "../../api/lists";
import { ChoicePart } from "../../ui/choice-part";
import { DayInput } from "../../ui/day-input";
import { Tick } from "../../ui/inputs";
import { ListInput } from "../../ui/list-input";
import { words } from "../../words";
import { PLACES } from "../form/entry-points";
import type { FormView } from "../form/form";
import type { Rule } from "../form/rule";

const t = words("rules");

type Common = Pick<Rule, "scope" | "in_force_from" | "in_force_to" | "changed_fields">;
type Props = { form: FormView; rule: Rule; onChange: (part: Partial<Common>) => void };

const BOTH = "both";
const EVENTS = [
  { value: BOTH, label: t("new_and_changed_records") },
  { value: "create", label: t("new_records_only") },
  { value: "update", label: t("changed_records_only") },
];
const ROLES = STORING_ROLES.map((role) => ({ value: role, label: role }));

export function Counting({ form, rule, onChange }: Props) {
  const { scope } = rule;
  const event = scope.events.length === 1 ? (scope.events[0] ?? BOTH) : BOTH;
  const put = (part: Partial<Rule["scope"]>) => onChange({ scope: { ...scope, ...part } });
  const layouts = form.setup.layouts.map(({ key, label }) => ({ value: key, label }));
  return (
    <div className="mt-1 flex flex-wrap items-baseline gap-x-1.5">
      <span>{t("it_counts_for")}</span>
      <ChoicePart
        label={t("which_records_it_counts_for")}
        value={event}
        groups={[{ options: EVENTS }]}
        onChoose={(chosen) =>
          put({ events: chosen === BOTH ? [] : [chosen as "create" | "update"] })
        }
      />
      <span>{t("stored_by")}</span>
      <ListInput
        label={t("roles_it_counts_for")}
        empty={t("everybody")}
        values={scope.roles}
        options={ROLES}
        onChange={(roles) => put({ roles })}
      />
      <span>{t("at")}</span>
      <ListInput
        label={t("entry_points_it_counts_at")}
        empty={t("any_entry_point")}
        values={scope.entry_points}
        options={PLACES}
        onChange={(entry_points) =>
          put({ entry_points: entry_points as Rule["scope"]["entry_points"] })
        }
      />
      {layouts.length > 0 && (
        <>
          <span>{t("on")}</span>
          <ListInput
            label={t("layouts_it_counts_on")}
            empty={t("every_layout")}
            values={scope.layouts}
            options={layouts}
            onChange={(chosen) => put({ layouts: chosen })}
          />
        </>
      )}
      <span className="-ml-1.5">{t("when")}</span>
      <ListInput
        label={t("fields_whose_change_it_waits_for")}
        empty={t("anything_is_stored")}
        italic={rule.changed_fields.length > 0}
        values={rule.changed_fields}
        options={form.fields.map((f) => ({ value: f.field.key, label: f.field.label }))}
        onChange={(changed_fields) => onChange({ changed_fields })}
      />
      {rule.changed_fields.length > 0 && <span>{t("changes")}</span>}
      <span className="-ml-1.5">,</span>
      <DayInput
        label={t("in_force_from")}
        labelShown
        placeholder={t("any_day")}
        value={rule.in_force_from ?? ""}
        onChange={(day) => onChange({ in_force_from: day || null })}
      />
      <DayInput
        label={t("until")}
        labelShown
        placeholder={t("any_day")}
        value={rule.in_force_to ?? ""}
        onChange={(day) => onChange({ in_force_to: day || null })}
      />
      <Tick checked={scope.derived_forms} onChange={(derived_forms) => put({ derived_forms })}>
        {t("on_derived_forms_too")}
      </Tick>
    </div>
  );
}
