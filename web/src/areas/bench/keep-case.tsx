// Keeping a try as a case: its name, and what should happen.
import { useMutation, useQueryClient } from "@tanstack/react-query";
import { type FormEvent, useState } from "react";
import { Link } from "react-router";
import { answer, client, type Schemas } from "../../api/client";
import { keys } from "../../api/keys";
import { OUTCOMES } from "../../api/lists";
import { Button } from "../../ui/button";
import { Facet } from "../../ui/facet";
import { Tick } from "../../ui/inputs";
import { useNotify } from "../../ui/notices";
import { Sheet } from "../../ui/sheet";
import { Trouble } from "../../ui/trouble";
import { words } from "../../words";
import { useCases } from "../cases/queries";
import { levelOf, OUTCOME_WORDS, type Outcome, outcomeOf } from "../form/outcomes";
import type { Judgement } from "../form-sheet/judging";
import type { BenchForm, BenchRequest } from "./trying";

const t = words("bench");

type Props = {
  form: BenchForm;
  request: BenchRequest;
  judgement: Judgement;
  open: boolean;
  onOpenChange: (open: boolean) => void;
};

export function KeepCase(props: Props) {
  return (
    <Sheet title={t("save_as_a_case")} open={props.open} onOpenChange={props.onOpenChange}>
      <KeepForm {...props} />
    </Sheet>
  );
}

const OUTCOME_NAMES: Record<Outcome, string> = {
  blocked: t("stopped"),
  warned: t("warned"),
  noted: t("noted"),
  clear: t("let_through"),
};

/** A name that says what the try shows. */
function nameFor(form: BenchForm, { save, submit }: Judgement) {
  const violated = submit.results.find((result) => result.status === "violated");
  const rule = form.rules.find((one) => one.key === violated?.rule);
  if (rule)
    return t("outcome_names_by_name", {
      OUTCOME_NAMES: OUTCOME_NAMES[submit.outcome],
      name: rule.name,
    });
  const clear = save.outcome === "clear" && submit.outcome === "clear";
  return clear ? t("a_record_that_goes_through") : "";
}

function KeepForm({ form, request, judgement, onOpenChange }: Props) {
  const [name, setName] = useState(() => nameFor(form, judgement));
  const [suite, setSuite] = useState("");
  const [why, setWhy] = useState("");
  const [said, setSaid] = useState<Said>({
    save: judgement.save.outcome,
    submit: judgement.submit.outcome,
  });
  const queries = useQueryClient();
  const notify = useNotify();
  const now = speaking(judgement);
  const [violated, setViolated] = useState<string[] | null>(() => now.map((one) => one.rule));
  const differs = (outcome: Outcome | null, present: Outcome) =>
    outcome !== null && outcome !== present;
  const otherwise =
    differs(said.save, judgement.save.outcome) ||
    differs(said.submit, judgement.submit.outcome) ||
    (violated !== null &&
      (violated.length !== now.length || now.some((one) => !violated.includes(one.rule))));
  const lessThanAll = said.save === null || said.submit === null || violated === null;
  const nothing = said.save === null && said.submit === null && violated === null;
  const keep = useMutation({
    mutationFn: () =>
      answer(
        client.POST("/api/v1/forms/{form_key}/cases", {
          params: { path: { form_key: form.key } },
          body: {
            name,
            suite,
            why,
            request,
            expected: otherwise || lessThanAll ? { ...said, violated } : null,
          },
        }),
      ),
    onSuccess: () => {
      for (const key of [keys.cases, keys.caseCounts, keys.history])
        queries.invalidateQueries({ queryKey: key(form.key) });
      notify({ text: t("kept_name", { name }) });
      onOpenChange(false);
    },
  });
  function submit(event: FormEvent) {
    event.preventDefault();
    if (name.trim()) keep.mutate();
  }
  return (
    <form onSubmit={submit}>
      <label className="block">
        <span className="text-muted">{t("name")}</span>
        <input
          className="line-input mt-1 block w-full"
          required
          value={name}
          spellCheck
          onChange={(event) => setName(event.target.value)}
        />
      </label>
      <Outcomes
        said={said}
        onChange={(next) => {
          setSaid(next);
          if (next.save === "clear" && next.submit === "clear" && violated) setViolated([]);
        }}
      />
      <Tick
        checked={violated !== null}
        onChange={(on) => setViolated(on ? now.map((one) => one.rule) : null)}
      >
        {t("look_at_which_rules_are_violated")}
      </Tick>
      {violated && <Violated form={form} now={now} violated={violated} onChange={setViolated} />}
      {nothing && <p className="mt-2 text-ochre">{t("let_the_case_look_at_one_of")}</p>}
      {otherwise && <p className="mt-2 text-ochre">{t("that_is_not_what_happens_now_the")}</p>}
      <SuiteAndReason
        formKey={form.key}
        suite={suite}
        why={why}
        onSuite={setSuite}
        onWhy={setWhy}
      />
      <div className="mt-3">
        <Trouble error={keep.error} />
      </div>
      <div className="mt-4 flex items-center gap-3">
        <Button look="solid" type="submit" busy={nothing || keep.isPending}>
          {t("keep_the_case")}
        </Button>
        <Link to={`/forms/${form.key}/cases`} className="ml-auto text-thistle hover:underline">
          {t("to_the_cases")}
        </Link>
      </div>
    </form>
  );
}

/** What should happen on saving and on submitting; null is anything. */
type Said = { save: Outcome | null; submit: Outcome | null };

function Outcomes({ said, onChange }: { said: Said; onChange: (said: Said) => void }) {
  return (
    <div className="mt-3 grid grid-cols-2 gap-x-6">
      {(["save", "submit"] as const).map((moment) => (
        <label key={moment} className="flex items-center gap-2 whitespace-nowrap">
          {moment === "save" ? t("saving_should_be") : t("submitting_should_be")}
          <select
            className="line-input"
            value={said[moment] ?? ""}
            onChange={(event) =>
              onChange({ ...said, [moment]: (event.target.value || null) as Outcome | null })
            }
          >
            {OUTCOMES.map((one) => (
              <option key={one} value={one}>
                {OUTCOME_WORDS[one].toLowerCase()}
              </option>
            ))}
            <option value="">{t("anything")}</option>
          </select>
        </label>
      ))}
    </div>
  );
}

type SuiteProps = {
  formKey: string;
  suite: string;
  why: string;
  onSuite: (suite: string) => void;
  onWhy: (why: string) => void;
};

function SuiteAndReason({ formKey, suite, why, onSuite, onWhy }: SuiteProps) {
  const kept = useCases(formKey).data?.cases ?? [];
  const suites = [...new Set(kept.map((one) => one.case.suite))].filter(Boolean);
  return (
    <div className="mt-3 grid grid-cols-2 gap-x-6">
      <label className="block">
        <span className="text-muted">{t("suite_may_stay_blank")}</span>
        <input
          className="line-input mt-1 block w-full"
          list="suites"
          value={suite}
          onChange={(event) => onSuite(event.target.value)}
        />
        <datalist id="suites">
          {suites.map((one) => (
            <option key={one} value={one} />
          ))}
        </datalist>
      </label>
      <label className="block">
        <span className="text-muted">{t("why_it_is_kept_may_stay_blank")}</span>
        <input
          className="line-input mt-1 block w-full"
          value={why}
          spellCheck
          onChange={(event) => onWhy(event.target.value)}
        />
      </label>
    </div>
  );
}

type ViolatedProps = {
  form: BenchForm;
  now: Schemas["RuleResultView"][];
  violated: string[];
  onChange: (violated: string[]) => void;
};

/** The rules that should be violated: those that are, unless they are taken off, and any other. */
function Violated({ form, now, violated, onChange }: ViolatedProps) {
  const shown = form.rules.filter(
    ({ key }) => violated.includes(key) || now.some((one) => one.rule === key),
  );
  const others = form.rules.filter((rule) => !rule.effect && !shown.includes(rule));
  return (
    <fieldset className="mt-3">
      <legend className="text-muted">
        {shown.length === 0 ? t("no_rule_should_be_violated") : t("these_rules_should_be_violated")}
      </legend>
      {shown.map(({ key, name }) => {
        const severity = now.find((one) => one.rule === key)?.severity;
        return (
          <Tick
            key={key}
            checked={violated.includes(key)}
            onChange={(on) =>
              onChange(on ? [...violated, key] : violated.filter((one) => one !== key))
            }
          >
            {severity && <Facet level={levelOf(outcomeOf(severity))} size={14} />} {name}
          </Tick>
        );
      })}
      {others.length > 0 && (
        <select
          aria-label={t("another_rule_that_should_be_violated")}
          className="line-input mt-1 max-w-full"
          value=""
          onChange={(event) => onChange([...violated, event.target.value])}
        >
          <option value="">{t("another_rule")}</option>
          {others.map(({ key, name }) => (
            <option key={key} value={key}>
              {name}
            </option>
          ))}
        </select>
      )}
    </fieldset>
  );
}

/** The rules that are violated and speak on saving or submitting, as hard as they do on submitting. */
function speaking({ save, submit }: Judgement) {
  const found = new Map<string, Schemas["RuleResultView"]>();
  for (const result of [...save.results, ...submit.results])
    if (result.status === "violated") found.set(result.rule, result);
  return [...found.values()];
}
