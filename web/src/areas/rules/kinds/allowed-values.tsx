// The values a field may have: one list, or a grid of those that go with another field's answers.
import { ChoicePart } from "../../../ui/choice-part";
import { ListInput } from "../../../ui/list-input";
import { words } from "../../../words";
import type { FormView } from "../../form/form";
import type { RuleOf } from "../../form/rule";
import { answersOf } from "../operand-part";
import { asItIs, type KindOf, type KindProps, said } from "./kind";

const t = words("rules");

type AllowedRule = RuleOf<"allowed_values">;
type Props = { form: FormView; rule: AllowedRule; onChange: (rule: AllowedRule) => void };

const ALWAYS = "always";
const GRID_MOST = 14;

function Parts({ form, draft, rule, onChange: onDraft }: KindProps<"allowed_values">) {
  const onChange = (next: AllowedRule) => onDraft({ ...draft, rule: next });
  const target = form.fields.find((one) => one.field.key === rule.targets[0]);
  const governors = form.fields.filter(
    (one) => one !== target && one.field.type !== "choices" && answersOf(one),
  );
  function choose(key: string) {
    onChange(
      key === ALWAYS
        ? { ...rule, governor: null, rows: [] }
        : { ...rule, governor: key, values: [], rows: [] },
    );
  }
  return (
    <>
      {rule.governor ? (
        <span>{t("the_values_that_go_with")}</span>
      ) : (
        <ListInput
          key={`${rule.key}:${target?.field.key}`}
          label={t("allowed_values")}
          values={rule.values}
          options={target ? answersOf(target) : null}
          onChange={(values) => onChange({ ...rule, values })}
        />
      )}
      {(governors.length > 0 || rule.governor) && (
        <ChoicePart
          label={t("what_the_values_depend_on")}
          italic={Boolean(rule.governor)}
          value={rule.governor ?? ALWAYS}
          groups={[
            { options: [{ value: ALWAYS, label: t("whatever_else_is_answered") }] },
            {
              label: t("by_the_answer_to"),
              options: governors.map((f) => ({ value: f.field.key, label: f.field.label })),
            },
          ]}
          onChoose={choose}
        />
      )}
      {target?.field.type === "text" && !rule.governor && (
        <ChoicePart
          label={t("capitals_and_small_letters")}
          value={rule.ignore_case ? "ignored" : "counted"}
          groups={[
            {
              options: [
                { value: "counted", label: t("written_exactly_so") },
                { value: "ignored", label: t("in_capitals_or_small_letters") },
              ],
            },
          ]}
          onChoose={(value) => onChange({ ...rule, ignore_case: value === "ignored" })}
        />
      )}
      {rule.governor && <Grid form={form} rule={rule} onChange={onChange} />}
    </>
  );
}

/** Which values go with which answer, to be ticked; typed where the values are no short list. */
function Grid({ form, rule, onChange }: Props) {
  const target = form.fields.find((one) => one.field.key === rule.targets[0]);
  const governor = form.fields.find((one) => one.field.key === rule.governor);
  const answers = (governor && answersOf(governor)) ?? [];
  const values = (target && answersOf(target)) ?? null;
  const rowOf = (answer: string) => rule.rows.find((row) => row.answer === answer)?.values ?? [];
  function put(answer: string, next: string[]) {
    const rows = answers.flatMap(({ value }) => {
      const kept = value === answer ? next : rowOf(value);
      return kept.length > 0 ? [{ answer: value, values: [...kept] }] : [];
    });
    onChange({ ...rule, rows });
  }
  if (!values || values.length > GRID_MOST)
    return (
      <span className="mt-1 block w-full font-sans text-base">
        {answers.map(({ value, label }) => (
          <span key={value} className="flex items-baseline gap-2 py-0.5">
            <span className="w-48">{label}:</span>
            <ListInput
              label={t("values_that_go_with_label", { label })}
              empty={t("none_so_nothing_is_judged")}
              values={rowOf(value)}
              options={values}
              onChange={(next) => put(value, next)}
            />
          </span>
        ))}
      </span>
    );
  return (
    <span className="mt-1 block w-full overflow-x-auto">
      <table className="font-sans text-base">
        <caption className="sr-only">
          {t("which_values_of_label_go_with_which", {
            label: target?.field.label ?? "",
            label2: governor?.field.label ?? "",
          })}
        </caption>
        <thead>
          <tr className="text-sm text-muted">
            <th />
            {values.map((value) => (
              <th key={value.value} scope="col" className="px-2 pb-1 text-left font-normal">
                {value.label}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {answers.map(({ value: answer, label }) => {
            const row = rowOf(answer);
            return (
              <tr key={answer} className="border-t border-hairline">
                <th scope="row" className="pr-3 text-left font-normal">
                  {label}
                  {row.length === 0 && (
                    <span className="block text-sm text-muted">{t("nothing_judged")}</span>
                  )}
                </th>
                {values.map(({ value, label: named }) => (
                  <td key={value} className="px-2 py-1">
                    <input
                      type="checkbox"
                      aria-label={t("named_goes_with_label", { named, label })}
                      className="size-6 accent-thistle"
                      checked={row.includes(value)}
                      onChange={(event) =>
                        put(
                          answer,
                          values
                            .map((one) => one.value)
                            .filter((one) =>
                              one === value ? event.target.checked : row.includes(one),
                            ),
                        )
                      }
                    />
                  </td>
                ))}
              </tr>
            );
          })}
        </tbody>
      </table>
    </span>
  );
}

export const allowedValues: KindOf<"allowed_values"> = {
  kind: "allowed_values",
  heading: "must",
  together: t("allowed_values"),
  ...said("allowed_values", t("must_be_one_of")),
  shows: null,
  order: "targets_verb",
  checks: true,
  needsCondition: false,
  begins: () => ({
    own: { values: [], ignore_case: false, governor: null, rows: [] },
    clauses: {},
  }),
  retargeted: asItIs,
  Before: null,
  Parts,
  Words: null,
  quick: null,
};
