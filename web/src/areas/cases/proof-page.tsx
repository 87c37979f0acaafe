// What the cases prove: of each rule, of the form, and which slips they would not notice.
import { Search } from "lucide-react";
import { useState } from "react";
import { Link, useNavigate } from "react-router";
import type { Schemas } from "../../api/client";
import { isUnderWay } from "../../api/jobs";
import { useMay } from "../../api/session";
import { useAddress } from "../../ui/address";
import { Button } from "../../ui/button";
import { counted } from "../../ui/counts";
import { Facet } from "../../ui/facet";
import { useNotify } from "../../ui/notices";
import { Page } from "../../ui/page";
import { Trouble } from "../../ui/trouble";
import { writtenNumber } from "../../ui/written";
import { words } from "../../words";
import { type FormView, useForm } from "../form/form";
import { isCheck } from "../form/rule";
import { JobProgress } from "./job-progress";
import { useCases, useKeepSeveral, useLookForSlips, useProof, useSlips } from "./queries";

const t = words("cases");

type Proof = Schemas["ProofView"];
type RuleProof = Schemas["RuleProofView"];
type Slip = Schemas["MutationView"];
const USUAL = { show: "" };
export function ProofPage() {
  const form = useForm().data;
  return form ? <Proved key={form.key} form={form} /> : null;
}

function Proved({ form }: { form: FormView }) {
  const proof = useProof(form.key);
  return (
    <Page title={t("proof")} of={form.name} className="mx-auto w-full max-w-6xl px-6 py-4">
      <Trouble error={proof.error} />
      {proof.data && (
        <>
          <Tallies proof={proof.data} />
          <Slips form={form} />
          <Rules form={form} proof={proof.data} />
        </>
      )}
    </Page>
  );
}

const TALLIES: [keyof Pick<Proof, "both_ways" | "save" | "submit" | "bounds" | "parts">, string][] =
  [
    ["both_ways", t("rules_seen_both_ways")],
    ["save", t("that_speak_on_saving_seen_violated")],
    ["submit", t("that_speak_on_submitting_seen_violated")],
    ["bounds", t("bounds_tried_on_both_sides")],
    ["parts", t("parts_of_conditions_shown_to_matter_alone")],
  ];

function Tallies({ proof }: { proof: Proof }) {
  return (
    <section aria-label={t("what_the_cases_prove")}>
      <h3 className="text-2xl">{t("what_cases_cases_prove", { cases: proof.cases })}</h3>
      <ul className="mt-2 grid grid-cols-2 gap-x-6 gap-y-2 border-y border-hairline py-3 sm:grid-cols-3 lg:grid-cols-5">
        {TALLIES.map(([key, words]) => {
          const { done, of } = proof[key];
          return (
            <li key={key}>
              <p className="font-serif text-2xl lining-nums">
                {done} <span className="text-base text-muted">{t("of_of", { of })}</span>
              </p>
              <p className="text-sm leading-snug text-muted">{words}</p>
              <div className="mt-1 h-1.5 border border-edge">
                <div
                  className="h-full bg-thistle"
                  style={{ width: `${of > 0 ? (100 * done) / of : 100}%` }}
                />
              </div>
            </li>
          );
        })}
      </ul>
    </section>
  );
}

function Slips({ form }: { form: FormView }) {
  const mayEdit = useMay("edit_draft");
  const slips = useSlips(form.key);
  const look = useLookForSlips(form.key);
  const keep = useKeepSeveral(form.key);
  const notify = useNotify();
  const [all, setAll] = useState(false);
  const found = slips.data?.slips ?? [];
  const count = (state: Slip["state"]) => found.filter((slip) => slip.state === state).length;
  const unnoticed = found.filter((slip) => slip.state === "unnoticed");
  const shown = all ? unnoticed : unnoticed.slice(0, 12);
  function keepAll(which: Slip[]) {
    const cases = casesFor(which);
    keep.mutate(
      cases.map((one) => ({ ...one, suite: "Slips" })),
      {
        onSuccess: () =>
          notify({
            text: t("length_cases_are_kept", { length: cases.length, count: cases.length }),
          }),
      },
    );
  }
  return (
    <section aria-label={t("slips")} className="mt-5">
      <div className="flex flex-wrap items-center gap-3">
        <h3 className="text-2xl">{t("slips")}</h3>
        <p className="mr-auto text-muted">{t("small_mistakes_made_in_a_copy_of")}</p>
        <JobProgress formKey={form.key} job={slips.data?.job ?? null} what="slip" />
        {mayEdit && (
          <Button
            look={slips.data?.up_to_date ? "line" : "solid"}
            onClick={() => look.mutate()}
            busy={look.isPending || isUnderWay(slips.data?.job)}
          >
            <Search size={15} aria-hidden="true" /> {t("search_for_slips")}
          </Button>
        )}
      </div>
      <Trouble error={slips.error ?? look.error ?? keep.error} />
      {slips.data?.looked && (
        <p className="mt-1" role="status">
          {t.rich("slips_found", {
            slips: found.length,
            caught: count("noticed"),
            missed: unnoticed.length,
            same: count("same"),
            undecided: count("not_decided"),
            missing: (chunks) => (
              <span className={unnoticed.length > 0 ? "font-semibold text-madder" : ""}>
                {chunks}
              </span>
            ),
            open: (chunks) => <span className="text-ochre">{chunks}</span>,
          })}
          {!slips.data.up_to_date && (
            <span className="text-ochre"> {t("the_rules_or_the_cases_have_changed")}</span>
          )}
        </p>
      )}
      {slips.data && !slips.data.looked && !isUnderWay(slips.data.job) && (
        <p className="mt-1 text-muted">{t("they_have_not_been_looked_for_yet")}</p>
      )}
      {unnoticed.length > 0 && (
        <>
          <ul className="mt-2 border-t border-hairline">
            {shown.map((slip) => (
              <SlipRow
                key={slip.key}
                form={form}
                slip={slip}
                mayEdit={mayEdit}
                onKeep={() => keepAll([slip])}
              />
            ))}
          </ul>
          <div className="mt-2 flex gap-3">
            {unnoticed.length > shown.length && (
              <Button look="quiet" onClick={() => setAll(true)}>
                {t("show")} {unnoticed.length - shown.length} {t("more")}
              </Button>
            )}
            {mayEdit && (
              <Button onClick={() => keepAll(unnoticed)} busy={keep.isPending}>
                {t("keep_the_count_cases_that_would_notice", {
                  count: casesFor(unnoticed).length,
                  countShown: writtenNumber(casesFor(unnoticed).length),
                })}
              </Button>
            )}
          </div>
        </>
      )}
      <Others
        slips={found.filter((slip) => slip.state === "same")}
        why={t("no_record_tells_them_from_the_rules")}
      />
      <Others
        slips={found.filter((slip) => slip.state === "not_decided")}
        why={t("no_record_was_found_that_tells_them")}
      />
    </section>
  );
}

/** Slips that no case need notice, or of which that is not known. */
function Others({ slips, why }: { slips: Slip[]; why: string }) {
  if (slips.length === 0) return null;
  return (
    <details className="mt-2">
      <summary className="cursor-pointer text-muted">
        {t("slips_in_state", {
          count: slips.length,
          shown: writtenNumber(slips.length),
          state: slips[0]?.state ?? "",
        })}
      </summary>
      <p className="pl-5 text-muted">{why}</p>
      <ul className="pl-5">
        {slips.map((slip) => (
          <li key={slip.key}>
            {slip.subject}: {slip.words}
            {slip.why && <span className="text-muted"> ({slip.why})</span>}
          </li>
        ))}
      </ul>
    </details>
  );
}

/** Slips that leave the sentence as it is. */
const SAYS_THE_SAME = ["severity", "moment"];

type SlipProps = { form: FormView; slip: Slip; mayEdit: boolean; onKeep: () => void };

function SlipRow({ form, slip, mayEdit, onKeep }: SlipProps) {
  const navigate = useNavigate();
  return (
    <li className="flex items-start gap-3 border-b border-hairline py-1.5">
      <span className="min-w-0 grow">
        {slip.subject}: <span className="font-semibold">{slip.words}</span>
        {!SAYS_THE_SAME.includes(slip.kind) && (
          <span className="block text-sm text-muted">{slip.sentence}</span>
        )}
      </span>
      {slip.witness && (
        <>
          <button
            type="button"
            className="min-h-6 shrink-0 text-thistle hover:underline"
            onClick={() =>
              navigate(`/forms/${form.key}/bench`, { state: { case: slip.witness?.case } })
            }
          >
            {t("on_the_bench")}
          </button>
          {mayEdit && (
            <Button look="line" className="shrink-0" onClick={onKeep}>
              {t("keep_a_case")}
            </Button>
          )}
        </>
      )}
    </li>
  );
}

/** The cases that would notice some slips; one may notice several. */
function casesFor(slips: Slip[]) {
  const found = new Map<string, Schemas["Case"]>();
  for (const { witness } of slips)
    if (witness) found.set(JSON.stringify(witness.case), witness.case);
  return [...found.values()];
}

function Rules({ form, proof }: { form: FormView; proof: Proof }) {
  const [{ show }, ask] = useAddress(USUAL);
  const open = show !== "all";
  const cases = useCases(form.key).data?.cases ?? [];
  const nameOf = (key: string | null | undefined) =>
    cases.find((one) => one.key === key)?.case.name ?? key ?? "";
  const names = new Map(form.rules.map(({ rule, called }) => [rule.key, called]));
  const effects = new Set(form.rules.filter((v) => !isCheck(v.rule)).map((v) => v.rule.key));
  const counting = proof.rules.filter((rule) => rule.counts);
  const shown = open ? counting.filter((rule) => wanting(rule).length > 0) : counting;
  return (
    <section aria-label={t("rule_by_rule")} className="mt-6">
      <div className="flex items-center gap-4">
        <h3 className="text-2xl">{t("rule_by_rule")}</h3>
        <label className="ml-auto flex items-center gap-1.5">
          <input
            type="checkbox"
            className="size-4 accent-thistle"
            checked={open}
            onChange={(event) => ask({ show: event.target.checked ? "" : "all" })}
          />
          {t("only_those_with_something_open")}
        </label>
      </div>
      {shown.length === 0 && (
        <p className="py-3 text-moss">{t("every_rule_has_been_seen_both_ways")}</p>
      )}
      <ul className="mt-1 border-t border-edge">
        {shown.map((rule) => (
          <li
            key={rule.rule}
            className="grid gap-x-6 border-b border-hairline py-2 lg:grid-cols-[minmax(0,20rem)_minmax(0,1fr)]"
          >
            <span>
              <Link
                to={`/forms/${form.key}/rules?rule=${rule.rule}`}
                className="hover:text-thistle hover:underline"
              >
                {names.get(rule.rule) ?? rule.rule}
              </Link>
              <span className="block text-sm text-muted">
                {t("violated_in_length_met_in_length2", {
                  rule: String(Boolean(effects.has(rule.rule))),
                  length: rule.fired.length,
                  always: String(Boolean(rule.always)),
                  length2: rule.cleared.length,
                })}
              </span>
            </span>
            <RuleDetail rule={rule} nameOf={nameOf} />
          </li>
        ))}
      </ul>
    </section>
  );
}

/** What is still open of a rule, in words. */
function wanting(rule: RuleProof) {
  return [
    rule.fired.length === 0 && t("never_seen_violated"),
    !rule.always && rule.cleared.length === 0 && t("never_seen_met"),
    ...rule.bounds.flatMap((bound) => [
      !bound.inside && t("no_case_just_inside_words", { words: bound.words }),
      !bound.outside && t("no_case_just_outside_words", { words: bound.words }),
    ]),
    ...rule.parts.map(
      (part) => part.state === "open" && t("words_not_shown_alone", { words: part.words }),
    ),
  ].filter((one): one is string => Boolean(one));
}

type DetailProps = { rule: RuleProof; nameOf: (key: string | null | undefined) => string };

function RuleDetail({ rule, nameOf }: DetailProps) {
  const open = wanting(rule);
  return (
    <div className="text-[0.95rem]">
      <ul>
        {open.map((words) => (
          <li key={words} className="flex items-center gap-1.5">
            <Facet level="warn" size={12} />
            {words}
          </li>
        ))}
      </ul>
      {(rule.bounds.length > 0 || rule.parts.length > 0) && (
        <details>
          <summary className="cursor-pointer text-sm text-muted">
            {[
              rule.bounds.length > 0 && counted(rule.bounds.length, "bound"),
              rule.parts.length > 0 && counted(rule.parts.length, "part"),
            ]
              .filter(Boolean)
              .join(", ")}{" "}
          </summary>
          <ul className="pl-4 text-sm">
            {rule.bounds.map((bound) => (
              <li key={bound.words}>
                {bound.words}:{" "}
                {bound.inside
                  ? t("inside_by_inside", { inside: nameOf(bound.inside) })
                  : t("inside_open")}
                ,{" "}
                {bound.outside
                  ? t("outside_by_outside", { outside: nameOf(bound.outside) })
                  : t("outside_open")}
              </li>
            ))}
            {rule.parts.map((part) => (
              <li key={part.key}>
                {part.words}:{" "}
                {part.state === "shown"
                  ? t("shown_by_nameof_and_nameof2", {
                      nameOf: nameOf(part.cases[0]),
                      nameOf2: nameOf(part.cases[1]),
                    })
                  : part.state === "not_reachable"
                    ? t("not_reachable_why", { why: part.why })
                    : part.why
                      ? t("open_whether_it_can_be_shown_is", { why: part.why })
                      : t("open")}
              </li>
            ))}
          </ul>
        </details>
      )}
    </div>
  );
}
