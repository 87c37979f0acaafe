// A small bench beside the rule: its fields to fill in, and what it says at each moment.

import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { answer, client, type Schemas } from "../../api/client";
import { keys } from "../../api/keys";
import { Button } from "../../ui/button";
import { Facet, type Level } from "../../ui/facet";
import { words } from "../../words";
import type { FormView } from "../form/form";
import { STATUS_WORDS } from "../form/outcomes";
import { MOMENT_WORDS, MOMENTS, type RuleDraft, ruleInputOf } from "../form/rule";
import { FormSheet } from "../form-sheet/form-sheet";
import { changesOf, type Entries, entriesWith } from "../form-sheet/judging";

const t = words("rules");

type Answer = Schemas["RuleBenchResult"];
type Result = Schemas["RuleResultView"];
type Props = { form: FormView; draft: RuleDraft; replaces: string | null };

/** What the draft would say with the rule as it stands; the answer to the last keystroke wins. */
function useAnswer({ form, draft, replaces }: Props, entries: Entries) {
  const entry = ruleInputOf(draft);
  const body = {
    ...entry,
    replaces,
    values: entries.values,
    reasons: entries.reasons,
    proposals_applied: entries.applied,
    // In the try every field counts as left, so that what is said while typing shows.
    touched: form.fields.map(({ field }) => field.key),
    number: null,
    event: "create" as const,
  };
  return useQuery({
    queryKey: keys.tried(form.key, form.revision, "rule", body),
    queryFn: ({ signal }) =>
      answer(
        client.POST("/api/v1/forms/{form_key}/bench/rule", {
          params: { path: { form_key: form.key } },
          body,
          signal,
        }),
      ),
    placeholderData: (before) => before,
    gcTime: 5_000,
    staleTime: 60_000,
    retry: false,
  });
}

export function TryBeside(props: Props) {
  const { form, draft } = props;
  const [entries, setEntries] = useState(() => entriesWith(form.sheet.starting));
  const tried = useAnswer(props, entries);
  const data = tried.isError ? undefined : tried.data;
  const wanted = new Set([...(data?.fields ?? []), ...draft.rule.targets]);
  const fields = form.fields.map((view) => view.field).filter((field) => wanted.has(field.key));
  const sheet = { ...form.sheet, sections: [], compounds: [] };
  const unfinished = data?.judgement.save.results.some(
    ({ rule, status }) => rule === data.rule && status === "unfinished",
  );
  return (
    <section aria-label={t("try_it_here")} className="border-hairline lg:border-l lg:pl-5">
      <div className="mb-1 flex items-center">
        <h3 className="mr-auto text-lg">{t("try_it_here")}</h3>
        <Button look="quiet" onClick={() => setEntries(entriesWith(form.sheet.starting))}>
          {t("start_again")}
        </Button>
      </div>
      {tried.isError || unfinished || fields.length === 0 ? (
        <p className="text-muted">{t("complete_the_rule_to_try_it_here")}</p>
      ) : (
        <>
          <FormSheet
            fields={fields}
            sheet={sheet}
            entries={entries}
            judgement={data && only(data)}
            pressed="submit"
            {...changesOf(setEntries, () => {})}
          />
          {data && <Says answer={data} />}
        </>
      )}
    </section>
  );
}

/** The judgement with what this rule says, and nothing of the others. */
function only({ rule, judgement }: Answer): Answer["judgement"] {
  const own = (verdict: Schemas["VerdictView"]) => ({
    ...verdict,
    results: verdict.results.filter((result) => result.rule === rule),
    proposals: verdict.proposals.filter((proposal) => proposal.rule === rule),
    held_by: [],
    on_hold: false,
    drops: [],
  });
  const { entry, save, submit } = judgement;
  return { entry: own(entry), save: own(save), submit: own(submit) };
}

function Says({ answer: { rule, judgement } }: { answer: Answer }) {
  const results = MOMENTS.map((moment) => ({
    moment,
    result: judgement[moment].results.find((one) => one.rule === rule),
  }));
  const told = results.find(({ result }) => result?.status === "violated") ?? results.at(-1);
  return (
    <div role="status" aria-live="off" aria-label={t("what_the_rule_says")} className="mt-2">
      <dl className="flex gap-6">
        {results.map(({ moment, result }) => (
          <div key={moment}>
            <dt className="text-sm text-muted">{MOMENT_WORDS[moment]}</dt>
            <dd className="flex items-center gap-1.5">
              {result && <StatusMark result={result} />}
            </dd>
          </div>
        ))}
      </dl>
      <p className="text-sm text-muted">{told?.result?.reason}</p>
    </div>
  );
}

function StatusMark({ result }: { result: Result }) {
  const { status, severity } = result;
  const level: Level | null =
    status === "violated" && severity !== "none"
      ? severity
      : status === "satisfied"
        ? "clear"
        : null;
  return (
    <>
      {level && <Facet level={level} size={14} />}
      {status === "violated" && severity !== "none" ? severity : STATUS_WORDS[status]}
    </>
  );
}
