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
import { type FormView, useForm } from "../form/form";
import { isCheck } from "../form/rule";
import { JobProgress } from "./job-progress";
import { useCases, useKeepSeveral, useLookForSlips, useProof, useSlips } from "./queries";

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
    <Page title="Proof" of={form.name} className="mx-auto w-full max-w-6xl px-6 py-4">
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
    ["both_ways", "rules seen both ways"],
    ["save", "that speak on saving seen violated"],
    ["submit", "that speak on submitting seen violated"],
    ["bounds", "bounds tried on both sides"],
    ["parts", "parts of conditions shown to matter alone"],
  ];

function Tallies({ proof }: { proof: Proof }) {
  return (
    <section aria-label="What the cases prove">
      <h3 className="text-2xl">
        What {proof.cases} {proof.cases === 1 ? "case proves" : "cases prove"}
      </h3>
      <ul className="mt-2 grid grid-cols-2 gap-x-6 gap-y-2 border-y border-hairline py-3 sm:grid-cols-3 lg:grid-cols-5">
        {TALLIES.map(([key, words]) => {
          const { done, of } = proof[key];
          return (
            <li key={key}>
              <p className="font-serif text-2xl lining-nums">
                {done} <span className="text-base text-muted">of {of}</span>
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
          notify({ text: `${cases.length} ${cases.length === 1 ? "case is" : "cases are"} kept.` }),
      },
    );
  }
  return (
    <section aria-label="Slips" className="mt-5">
      <div className="flex flex-wrap items-center gap-3">
        <h3 className="text-2xl">Slips</h3>
        <p className="mr-auto text-muted">
          Small mistakes made in a copy of the rules, to see whether a case catches them.
        </p>
        <JobProgress formKey={form.key} job={slips.data?.job ?? null} what="slip" />
        {mayEdit && (
          <Button
            look={slips.data?.up_to_date ? "line" : "solid"}
            onClick={() => look.mutate()}
            busy={look.isPending || isUnderWay(slips.data?.job)}
          >
            <Search size={15} aria-hidden="true" /> Search for slips
          </Button>
        )}
      </div>
      <Trouble error={slips.error ?? look.error ?? keep.error} />
      {slips.data?.looked && (
        <p className="mt-1" role="status">
          Of {found.length} slips, {count("noticed")} are noticed,{" "}
          <span className={unnoticed.length > 0 ? "font-semibold text-madder" : ""}>
            {unnoticed.length} are not
          </span>
          {count("same") > 0 && `, ${count("same")} are proved to make no difference`}
          {count("not_decided") > 0 && (
            <>
              , and <span className="text-ochre">{count("not_decided")} are not decided</span>
            </>
          )}
          .
          {!slips.data.up_to_date && (
            <span className="text-ochre"> The rules or the cases have changed since.</span>
          )}
        </p>
      )}
      {slips.data && !slips.data.looked && !isUnderWay(slips.data.job) && (
        <p className="mt-1 text-muted">They have not been looked for yet.</p>
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
                Show {unnoticed.length - shown.length} more
              </Button>
            )}
            {mayEdit && (
              <Button onClick={() => keepAll(unnoticed)} busy={keep.isPending}>
                Keep the {counted(casesFor(unnoticed).length, "case")} that would notice them all
              </Button>
            )}
          </div>
        </>
      )}
      <Others
        slips={found.filter((slip) => slip.state === "same")}
        what="proved to make no difference"
        why="No record tells them from the rules as they are, so no case can. Where a rule was meant to say more, look at it."
      />
      <Others
        slips={found.filter((slip) => slip.state === "not_decided")}
        what="not decided"
        why="No record was found that tells them from the rules as they are, and that there is none is not proved."
      />
    </section>
  );
}

/** Slips that no case need notice, or of which that is not known. */
function Others({ slips, what, why }: { slips: Slip[]; what: string; why: string }) {
  if (slips.length === 0) return null;
  return (
    <details className="mt-2">
      <summary className="cursor-pointer text-muted">
        {counted(slips.length, "slip")} {what}
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
            on the bench
          </button>
          {mayEdit && (
            <Button look="line" className="shrink-0" onClick={onKeep}>
              Keep a case
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
    <section aria-label="Rule by rule" className="mt-6">
      <div className="flex items-center gap-4">
        <h3 className="text-2xl">Rule by rule</h3>
        <label className="ml-auto flex items-center gap-1.5">
          <input
            type="checkbox"
            className="size-4 accent-thistle"
            checked={open}
            onChange={(event) => ask({ show: event.target.checked ? "" : "all" })}
          />
          only those with something open
        </label>
      </div>
      {shown.length === 0 && (
        <p className="py-3 text-moss">
          Every rule has been seen both ways, at each bound and with each part.
        </p>
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
                {effects.has(rule.rule) ? "in effect" : "violated"} in {rule.fired.length},{" "}
                {rule.always
                  ? "and always in effect"
                  : `${effects.has(rule.rule) ? "not in effect" : "met"} in ${rule.cleared.length}`}
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
    rule.fired.length === 0 && "never seen violated",
    !rule.always && rule.cleared.length === 0 && "never seen met",
    ...rule.bounds.flatMap((bound) => [
      !bound.inside && `no case just inside “${bound.words}”`,
      !bound.outside && `no case just outside “${bound.words}”`,
    ]),
    ...rule.parts.map((part) => part.state === "open" && `“${part.words}” not shown alone`),
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
                {bound.inside ? `inside by “${nameOf(bound.inside)}”` : "inside open"},{" "}
                {bound.outside ? `outside by “${nameOf(bound.outside)}”` : "outside open"}
              </li>
            ))}
            {rule.parts.map((part) => (
              <li key={part.key}>
                {part.words}:{" "}
                {part.state === "shown"
                  ? `shown by “${nameOf(part.cases[0])}” and “${nameOf(part.cases[1])}”`
                  : part.state === "not_reachable"
                    ? `not reachable. ${part.why}`
                    : part.why
                      ? `open; whether it can be shown is not decided, as ${part.why}`
                      : "open"}
              </li>
            ))}
          </ul>
        </details>
      )}
    </div>
  );
}
