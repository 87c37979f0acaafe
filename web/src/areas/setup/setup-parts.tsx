// What the set-up of a form is made of: its name and zone, and its lists of named parts.
import { useQuery } from "@tanstack/react-query";
import { answer, client } from "../../api/client";
import { keys } from "../../api/keys";
import { ChoicePart } from "../../ui/choice-part";
import { Line } from "../../ui/inputs";
import { ListInput } from "../../ui/list-input";
import { words } from "../../words";
import type { FormView } from "../form/form";
import { ConditionPart } from "./condition-part";
import { PartList } from "./part-list";
import type { Setup } from "./setup-draft";
import { StarterValues } from "./starter-values";

const t = words("setup");

type Props = { form: FormView; setup: Setup; onChange: (part: Partial<Setup>) => void };

const ITSELF = "itself";

export function Identity({ form, setup, onChange: put }: Props) {
  const forms = useQuery({
    queryKey: keys.forms,
    queryFn: () => answer(client.GET("/api/v1/forms")),
  });
  const bases = (forms.data ?? []).filter((one) => one.key !== form.key);
  return (
    <div className="grid grid-cols-2 gap-x-6 gap-y-3">
      <Line label={t("name_of_the_form")} value={setup.name} onChange={(name) => put({ name })} />
      <Line
        label={t("what_it_is_for")}
        value={setup.purpose}
        onChange={(purpose) => put({ purpose })}
      />
      <Line
        label={t("time_zone_in_which_its_days_begin")}
        value={setup.zone}
        onChange={(zone) => put({ zone })}
      />
      <p className="self-end">
        {t("it_is_derived_from")}{" "}
        <ChoicePart
          label={t("form_it_is_derived_from")}
          value={setup.derived_from ?? ITSELF}
          groups={[
            { options: [{ value: ITSELF, label: t("no_other_form") }] },
            { options: bases.map(({ key, name }) => ({ value: key, label: name })) },
          ]}
          onChoose={(key) => put({ derived_from: key === ITSELF ? null : key })}
        />
      </p>
    </div>
  );
}

export function SetupParts({ form, setup, onChange: put }: Props) {
  const fields = form.fields.map(({ field }) => ({ value: field.key, label: field.label }));
  return (
    <>
      <PartList
        what="section"
        title={t("sections")}
        says={t("parts_of_the_form_with_a_heading")}
        items={setup.sections}
        labelOf={(one) => one.label}
        stored={form.setup.sections}
        withLabel={(one, label) => ({ ...one, label })}
        begin={(key) => ({ key, label: "" })}
        onChange={(sections) => put({ sections })}
      />
      <PartList
        what="layout"
        title={t("layouts")}
        says={t("ways_of_laying_the_form_out_a")}
        items={setup.layouts}
        labelOf={(one) => one.label}
        stored={form.setup.layouts}
        withLabel={(one, label) => ({ ...one, label })}
        begin={(key) => ({ key, label: "" })}
        onChange={(layouts) => put({ layouts })}
      />
      <PartList
        what="compound"
        title={t("compounds")}
        says={t("fields_that_are_asked_as_one_such")}
        items={setup.compounds}
        labelOf={(one) => one.label}
        stored={form.setup.compounds}
        withLabel={(one, label) => ({ ...one, label })}
        begin={(key) => ({ key, label: "", parts: [] })}
        onChange={(compounds) => put({ compounds })}
      >
        {(one, change) => (
          <p>
            {t("made_of")}{" "}
            <ListInput
              label={t("fields_of_label", { label: one.label })}
              italic
              inOrderChosen
              empty={t("which_fields")}
              values={one.parts}
              options={fields}
              onChange={(parts) => change({ ...one, parts })}
            />
          </p>
        )}
      </PartList>
      <PartList
        what="condition"
        title={t("named_conditions")}
        says={t("conditions_that_several_rules_share_written")}
        items={setup.conditions}
        labelOf={(one) => one.name}
        stored={form.setup.conditions}
        withLabel={(one, name) => ({ ...one, name })}
        begin={(key) => ({ key, name: "", condition: "", clauses: null })}
        onChange={(conditions) => put({ conditions })}
      >
        {(one, change) => (
          <ConditionPart
            form={form}
            named={one}
            usedBy={form.setup.conditions.find(({ key }) => key === one.key)?.used_by ?? []}
            onChange={change}
          />
        )}
      </PartList>
      <PartList
        what="starter"
        title={t("starters")}
        says={t("sets_of_values_that_a_new_record")}
        items={setup.starters}
        labelOf={(one) => one.label}
        stored={form.setup.starters}
        withLabel={(one, label) => ({ ...one, label })}
        begin={(key) => ({ key, label: "", values: {} })}
        onChange={(starters) => put({ starters })}
      >
        {(one, change) => <StarterValues form={form} starter={one} onChange={change} />}
      </PartList>
    </>
  );
}
