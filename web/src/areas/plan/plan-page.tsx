// The plan of a form: what must be true of its data, in plain words, the rules that cover it, and the cases that prove it.
import { useMutation } from "@tanstack/react-query";
import { Plus } from "lucide-react";
import { type FormEvent, useState } from "react";
import { Link, useParams } from "react-router";
import { answer, client } from "../../api/client";
import { useMay } from "../../api/session";
import { useAddress } from "../../ui/address";
import { Button } from "../../ui/button";
import { ListInput } from "../../ui/list-input";
import { Page } from "../../ui/page";
import { Sentence } from "../../ui/sentence";
import { Trouble } from "../../ui/trouble";
import { words } from "../../words";
import { useCases } from "../cases/queries";
import { type FormView, oneByOne, useForm, useRefresh } from "../form/form";
import { coveringOf } from "./covering";
import type { PlanLine as Line } from "./queries";

const t = words("plan");

const USUAL = { show: "" };
export function PlanPage() {
  const { formKey = "" } = useParams();
  const form = useForm().data;
  return form ? <Plan key={formKey} form={form} /> : null;
}

function Plan({ form }: { form: FormView }) {
  const mayEdit = useMay("edit_draft");
  const [asked, ask] = useAddress(USUAL);
  const bare = asked.show === "open";
  const covering = coveringOf(form);
  const { isHeld, unplanned } = covering;
  const open = covering.open.length;
  const shown = bare ? covering.open : form.plan;
  return (
    <Page title={t("plan")} of={form.name} className="mx-auto w-full max-w-5xl px-6 py-5">
      <p className="flex items-baseline gap-4">
        <span>{t("what_must_be_true_of_the_data")}</span>
        {open > 0 && (
          <label className="ml-auto flex items-center gap-1.5 whitespace-nowrap text-ochre">
            <input
              type="checkbox"
              className="size-4 accent-thistle"
              checked={bare}
              onChange={(event) => ask({ show: event.target.checked ? "open" : "" })}
            />
            {t("open_not_covered_or_not_proved_show", { open })}
          </label>
        )}
      </p>
      <ol className="mt-3 border-t border-edge">
        {shown.map((line) => (
          <LineRow key={line.key} form={form} line={line} held={isHeld(line)} mayEdit={mayEdit} />
        ))}
      </ol>
      {form.plan.length === 0 && (
        <p className="py-4 text-muted">{t("nothing_is_planned_yet_write_the_first")}</p>
      )}
      {mayEdit && <NewLine form={form} />}
      {form.plan.length > 0 && unplanned.length > 0 && (
        <details className="mt-6">
          <summary className="cursor-pointer text-muted">
            {t("length_rules_belong_to_no_line", {
              length: unplanned.length,
              count: unplanned.length,
            })}
          </summary>
          <ul className="mt-1 pl-5">
            {unplanned.map(({ rule, called, sentence }) => (
              <li key={rule.key} className="py-0.5">
                <RuleLink form={form} rule={rule.key}>
                  {called}
                </RuleLink>
                <span className="block text-muted">
                  <Sentence segments={sentence} />
                </span>
              </li>
            ))}
          </ul>
        </details>
      )}
    </Page>
  );
}

type LinkProps = { form: FormView; rule: string; children: string };

function RuleLink({ form, rule, children }: LinkProps) {
  return (
    <Link to={`/forms/${form.key}/rules?rule=${rule}`} className="text-thistle hover:underline">
      {children}
    </Link>
  );
}

function NewLine({ form }: { form: FormView }) {
  const [text, setText] = useState("");
  const refresh = useRefresh(form.key);
  const add = useMutation({
    scope: oneByOne(form.key),
    mutationFn: () =>
      answer(
        client.POST("/api/v1/forms/{form_key}/plan", {
          params: { path: { form_key: form.key } },
          body: { text, rules: [], cases: [] },
        }),
      ),
    onSuccess: () => {
      setText("");
      return refresh();
    },
  });
  function submit(event: FormEvent) {
    event.preventDefault();
    if (text.trim()) add.mutate();
  }
  return (
    <form onSubmit={submit} className="mt-3">
      <div className="flex gap-2">
        <label className="grow">
          <span className="sr-only">{t("a_new_line_of_the_plan")}</span>
          <input
            className="line-input w-full"
            placeholder={t("what_must_be_true_in_plain_words")}
            spellCheck
            value={text}
            onChange={(event) => setText(event.target.value)}
          />
        </label>
        <Button type="submit" busy={add.isPending || !text.trim()}>
          <Plus size={16} aria-hidden="true" /> {t("add_line")}
        </Button>
      </div>
      <Trouble error={add.error} />
    </form>
  );
}

type RowProps = { form: FormView; line: Line; held: boolean; mayEdit: boolean };

function LineRow({ form, line, held, mayEdit }: RowProps) {
  const [text, setText] = useState<string | null>(null);
  const refresh = useRefresh(form.key);
  const path = { form_key: form.key, line_key: line.key };
  const change = useMutation({
    scope: oneByOne(form.key),
    mutationFn: (part: { text?: string; rules?: string[]; cases?: string[] }) =>
      answer(
        client.PUT("/api/v1/forms/{form_key}/plan/{line_key}", {
          params: { path },
          body: {
            text: line.text,
            rules: line.rules,
            cases: line.cases,
            ...part,
            revision: line.revision,
          },
        }),
      ),
    onSuccess: () => setText(null),
    onSettled: refresh,
  });
  const remove = useMutation({
    scope: oneByOne(form.key),
    mutationFn: () =>
      answer(
        client.DELETE("/api/v1/forms/{form_key}/plan/{line_key}", {
          params: { path, query: { revision: line.revision } },
        }),
      ),
    onSettled: refresh,
  });
  const cases = useCases(form.key).data?.cases ?? [];
  const proving = cases.filter((one) => line.cases.includes(one.key));
  const amiss = proving.filter((one) => one.state !== "passes" && one.state !== "not_run");
  const options = form.rules.map(({ rule, called }) => ({ value: rule.key, label: called }));
  const named = form.rules.filter(({ rule }) => line.rules.includes(rule.key));
  return (
    <li className={`border-b border-hairline py-2 ${held ? "" : "border-l-4 border-l-ochre pl-3"}`}>
      <div className="flex items-baseline gap-3">
        {text === null ? (
          <span className="grow font-serif text-[1.15rem]">{line.text}</span>
        ) : (
          <input
            aria-label={t("words_of_the_line")}
            className="line-input grow"
            // biome-ignore lint/a11y/noAutofocus: the line was opened to be reworded
            autoFocus
            spellCheck
            value={text}
            onChange={(event) => setText(event.target.value)}
            onKeyDown={(event) => {
              if (event.key === "Enter" && text.trim()) change.mutate({ text });
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
              onClick={() => remove.mutate()}
            >
              {t("remove")}
            </Button>
          </>
        )}
        {text !== null && (
          <>
            <Button busy={!text.trim() || change.isPending} onClick={() => change.mutate({ text })}>
              {t("store")}
            </Button>
            <Button look="quiet" onClick={() => setText(null)}>
              {t("drop")}
            </Button>
          </>
        )}
      </div>
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
            onChange={(rules) => change.mutate({ rules })}
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
            onChange={(next) => change.mutate({ cases: next })}
          />
        )}
      </div>
      <Trouble error={change.error ?? remove.error} />
    </li>
  );
}
