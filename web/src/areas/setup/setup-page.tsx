// The set-up of a form: its name and zone, sections, layouts, conditions, starters and lists.
import { useMutation, useQuery } from "@tanstack/react-query";
import type { KeyboardEvent } from "react";
import { useParams } from "react-router";
import { answer, client, Refused } from "../../api/client";
import { useMay } from "../../api/session";
import { Button } from "../../ui/button";
import { ChoicePart } from "../../ui/choice-part";
import { Line } from "../../ui/inputs";
import { useKept } from "../../ui/kept";
import { isStoreKey } from "../../ui/keys";
import { ListInput } from "../../ui/list-input";
import { useNotify } from "../../ui/notices";
import { Page } from "../../ui/page";
import { ProblemList, Trouble } from "../../ui/trouble";
import { words } from "../../words";
import { type FormView, oneByOne, useForm, useRefresh } from "../form/form";
import { ConditionPart } from "./condition-part";
import { PartList } from "./part-list";
import { RemoveForm } from "./remove-form";
import { type Setup, sentOf, setupOf } from "./setup-draft";
import { SharedLists } from "./shared-lists";
import { StarterValues } from "./starter-values";

const t = words("setup");

export function SetupPage() {
  const { formKey = "" } = useParams();
  const form = useForm().data;
  return form ? <SetupOf key={formKey} form={form} /> : null;
}

const ITSELF = "itself";

function SetupOf({ form }: { form: FormView }) {
  const mayEdit = useMay("edit_draft");
  const mayRelease = useMay("release");
  const kept = useKept<Setup>(`setup:${form.key}`, setupOf(form));
  const refresh = useRefresh(form.key);
  const notify = useNotify();
  // What has not been touched follows the newest version.
  const setup = kept.dirty ? kept.value : setupOf(form);
  const put = (part: Partial<Setup>) => kept.change({ ...setup, ...part });
  const forms = useQuery({
    queryKey: ["forms"],
    queryFn: () => answer(client.GET("/api/v1/forms")),
  });
  const store = useMutation({
    scope: oneByOne(form.key),
    mutationFn: () =>
      answer(
        client.PUT("/api/v1/forms/{form_key}/setup", {
          params: { path: { form_key: form.key } },
          body: sentOf(setup),
        }),
      ),
    onSuccess: async (stored) => {
      await refresh();
      kept.forget(setupOf(stored));
      notify({ text: t("set_up_saved") });
    },
  });
  function onKeyDown(event: KeyboardEvent) {
    if (isStoreKey(event) && kept.dirty && !store.isPending) store.mutate();
  }
  const newer = store.error instanceof Refused ? store.error.problem.revision : undefined;
  const bases = (forms.data ?? []).filter((one) => one.key !== form.key);
  const fields = form.fields.map(({ field }) => ({ value: field.key, label: field.label }));
  return (
    <Page
      title={t("set_up")}
      of={form.name}
      className="mx-auto w-full max-w-5xl px-6 py-5"
      {...(mayEdit && { onKeyDown })}
    >
      {form.problems.length > 0 && (
        <div className="mb-3 text-madder">
          <ProblemList items={form.problems} />
        </div>
      )}
      <fieldset disabled={!mayEdit} className="contents">
        <div className="grid grid-cols-2 gap-x-6 gap-y-3">
          <Line
            label={t("name_of_the_form")}
            value={setup.name}
            onChange={(name) => put({ name })}
          />
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
      </fieldset>
      <div className="sticky bottom-0 mt-4 border-t border-edge bg-ground py-2">
        <Trouble error={store.error} />
        {newer && (
          <Button className="mt-1 mb-2" onClick={() => put({ revision: newer })}>
            {t("keep_mine")}
          </Button>
        )}
        {mayEdit && (
          <span className="flex gap-2">
            <Button
              look="solid"
              busy={!kept.dirty || store.isPending}
              onClick={() => store.mutate()}
            >
              {t("save_set_up")}
            </Button>
            {kept.dirty && (
              <Button
                onClick={() => {
                  kept.forget(setupOf(form));
                  store.reset();
                }}
              >
                {t("discard_my_changes")}
              </Button>
            )}
          </span>
        )}
      </div>
      <SharedLists form={form} mayEdit={mayEdit} />
      {mayRelease && (
        <div className="mt-6 flex border-t border-hairline pt-3">
          <RemoveForm form={form} />
        </div>
      )}
    </Page>
  );
}
