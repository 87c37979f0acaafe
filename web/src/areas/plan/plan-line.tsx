// A line of the plan: its words, the rules that cover it, and the cases that prove it.
import { useState } from "react";
import { Link } from "react-router";
import { Button } from "../../ui/button";
import { ListInput } from "../../ui/list-input";
import { Trouble } from "../../ui/trouble";
import { words } from "../../words";
import { useCases } from "../cases/queries";
import type { FormView } from "../form/form";
import { type PlanLine, useChangeLine, useRemoveLine } from "./queries";

const t = words("plan");

type LinkProps = { form: FormView; rule: string; children: string };

export function RuleLink({ form, rule, children }: LinkProps) {
  return (
    <Link to={`/forms/${form.key}/rules?rule=${rule}`} className="text-thistle hover:underline">
      {children}
    </Link>
  );
}

type RowProps = { form: FormView; line: PlanLine; held: boolean; mayEdit: boolean };
type Changing = { onChange: (part: { rules?: string[]; cases?: string[] }) => void };

export function LineRow({ form, line, held, mayEdit }: RowProps) {
  const change = useChangeLine(form, line);
  const remove = useRemoveLine(form, line);
  const part = { form, line, mayEdit, onChange: change.mutate };
  return (
    <li className={`border-b border-hairline py-2 ${held ? "" : "border-l-4 border-l-ochre pl-3"}`}>
      <Words line={line} mayEdit={mayEdit} change={change} onRemove={() => remove.mutate()} />
      <Covering {...part} held={held} />
      <Proving {...part} />
      <Trouble error={change.error ?? remove.error} />
    </li>
  );
}

type WordsProps = {
  line: PlanLine;
  mayEdit: boolean;
  change: ReturnType<typeof useChangeLine>;
  onRemove: () => void;
};

function Words({ line, mayEdit, change, onRemove }: WordsProps) {
  const [text, setText] = useState<string | null>(null);
  const store = (words: string) =>
    change.mutate({ text: words }, { onSuccess: () => setText(null) });
  return (
    <div className="flex items-baseline gap-3">
      {text === null ? (
        <span className="grow font-serif text-[1.15rem]">{line.text}</span>
      ) : (
        <input
          aria-label={t("words_of_the_line")}
          className="line-input grow"
          data-focus="self"
          spellCheck
          value={text}
          onChange={(event) => setText(event.target.value)}
          onKeyDown={(event) => {
            if (event.key === "Enter" && text.trim()) store(text);
            if (event.key === "Escape") setText(null);
          }}
        />
      )}
      {mayEdit && text === null && (
        <>
          <Button
            look="quiet"
            aria-label={t("reword_text", { text: line.text })}
            onClick={() => setText(line.text)}
          >
            {t("reword")}
          </Button>
          <Button
            look="quiet"
            aria-label={t("remove_text", { text: line.text })}
            onClick={onRemove}
          >
            {t("remove")}
          </Button>
        </>
      )}
      {text !== null && (
        <>
          <Button busy={!text.trim() || change.isPending} onClick={() => store(text)}>
            {t("store")}
          </Button>
          <Button look="quiet" onClick={() => setText(null)}>
            {t("drop")}
          </Button>
        </>
      )}
    </div>
  );
}

function Covering({ form, line, held, mayEdit, onChange }: RowProps & Changing) {
  const options = form.rules.map(({ rule, called }) => ({ value: rule.key, label: called }));
  const named = form.rules.filter(({ rule }) => line.rules.includes(rule.key));
  return (
    <div className="mt-0.5 flex flex-wrap items-baseline gap-x-2 text-[0.95rem]">
      {held ? (
        <span className="text-muted">{t("covered_by")}</span>
      ) : (
        <span className="text-ochre">{t("no_rule_covers_it_yet")}</span>
      )}
      {named.map(({ rule, called }, place) => (
        <span key={rule.key}>
          <RuleLink form={form} rule={rule.key}>
            {called}
          </RuleLink>
          {place < named.length - 1 && ","}
        </span>
      ))}
      {mayEdit && (
        <ListInput
          label={t("rules_that_cover_text", { text: line.text })}
          empty={t("choose_rules")}
          shows={named.length > 0 ? "change" : undefined}
          values={line.rules}
          options={options}
          onChange={(rules) => onChange({ rules })}
        />
      )}
      {mayEdit && (
        <Link
          to={`/forms/${form.key}/rules?rule=new&line=${line.key}`}
          aria-label={t("write_a_rule_that_covers_text", { text: line.text })}
          className="text-thistle hover:underline"
        >
          {t("write_the_rule")}
        </Link>
      )}
    </div>
  );
}

function Proving({ form, line, mayEdit, onChange }: Omit<RowProps, "held"> & Changing) {
  const cases = useCases(form.key).data?.cases ?? [];
  const proving = cases.filter((one) => line.cases.includes(one.key));
  const amiss = proving.filter((one) => one.state !== "passes" && one.state !== "not_run");
  return (
    <div className="flex flex-wrap items-baseline gap-x-2 text-[0.95rem]">
      {proving.length > 0 ? (
        <span className="text-muted">{t("proved_by")}</span>
      ) : (
        <span className="text-ochre">{t("no_case_proves_it_yet")}</span>
      )}
      {proving.map((one, place) => (
        <span key={one.key}>
          <Link
            to={`/forms/${form.key}/cases?case=${one.key}`}
            className="text-thistle hover:underline"
          >
            {one.case.name}
          </Link>
          {place < proving.length - 1 && ","}
        </span>
      ))}
      {amiss.length > 0 && (
        <span className="text-madder">
          {t("length_of_them_fail", { length: amiss.length, count: amiss.length })}
        </span>
      )}
      {mayEdit && cases.length > 0 && (
        <ListInput
          label={t("cases_that_prove_text", { text: line.text })}
          empty={t("choose_cases")}
          shows={proving.length > 0 ? "change" : undefined}
          values={line.cases}
          options={cases.map((one) => ({ value: one.key, label: one.case.name }))}
          onChange={(next) => onChange({ cases: next })}
        />
      )}
    </div>
  );
}
