// Findings: what is wrong or doubtful about the rules, known before any record exists.
import { useEffect, useRef } from "react";
import { useParams } from "react-router";
import { isUnderWay } from "../../api/jobs";
import { useMay } from "../../api/session";
import { useAddress } from "../../ui/address";
import { Button } from "../../ui/button";
import { counted } from "../../ui/counts";
import { Tick } from "../../ui/inputs";
import { LabelledSelect } from "../../ui/labelled-select";
import { Page } from "../../ui/page";
import { Trouble } from "../../ui/trouble";
import { JobProgress } from "../cases/job-progress";
import type { FormView } from "../form/form";
import { useForm } from "../form/form";
import { FindingRow } from "./finding-row";
import {
  counts,
  type Finding,
  type Findings,
  isOpen,
  lacking,
  useFindings,
  useLook,
} from "./queries";

const USUAL = { by: "gravity", kind: "", rule: "", aside: "" };

export function FindingsPage() {
  const { formKey = "" } = useParams();
  const form = useForm().data;
  return (
    <Page title="Findings" of={form?.name} className="mx-auto w-full max-w-5xl px-6 py-5">
      {form && <Found key={formKey} form={form} />}
    </Page>
  );
}

function Found({ form }: { form: FormView }) {
  const findings = useFindings(form.key, form.revision);
  const look = useLook(form.key, form.revision);
  const { data } = findings;
  useSought(data, form.revision, look.mutate);
  const mayEdit = useMay("edit_draft");
  const [asked, ask] = useAddress(USUAL);
  const stopped = data?.job?.state === "stopped" || data?.job?.state === "failed";
  const shown = (data?.found ?? []).filter((one) => shows(one, asked));
  return (
    <>
      <div className="flex flex-wrap items-center gap-3">
        <h2 className="mr-auto text-2xl">Findings</h2>
        <JobProgress formKey={form.key} job={data?.job ?? null} what="question" />
        {stopped && (
          <Button onClick={() => look.mutate()} busy={look.isPending}>
            Look again
          </Button>
        )}
      </div>
      <Trouble error={findings.error ?? look.error} />
      {data && !data.looked && (
        <p className="mt-3 border-t border-hairline py-6 text-muted">
          The rules are being looked through for what no record could ever do right: rules that
          never apply, answers with which nothing goes through, gaps between tiers, blanks that were
          forgotten.
        </p>
      )}
      {data?.looked && (
        <>
          <Summary findings={data} />
          <div className="mt-3 flex flex-wrap items-center gap-x-5 gap-y-2">
            <LabelledSelect
              label="Listed by"
              value={asked.by}
              options={[
                ["gravity", "gravity"],
                ["rule", "rule"],
              ]}
              onChange={(by) => ask({ by })}
            />
            <LabelledSelect
              label="of the kind"
              none="every kind"
              value={asked.kind}
              options={kindsOf(data.found)}
              onChange={(kind) => ask({ kind })}
            />
            <LabelledSelect
              label="about"
              none="every rule"
              value={asked.rule}
              options={rulesOf(data.found)}
              onChange={(rule) => ask({ rule })}
            />
            <Tick checked={asked.aside !== ""} onChange={(next) => ask({ aside: next ? "1" : "" })}>
              also dismissed findings
            </Tick>
          </div>
          {shown.length === 0 && (
            <p className="mt-4 border-t border-hairline py-6 text-muted">
              {data.found.some(isOpen)
                ? "Nothing of this kind was found."
                : "Nothing was found wrong or doubtful."}
            </p>
          )}
          {grouped(shown, asked.by).map(({ title, found }) => (
            <section key={title} aria-label={title} className="mt-5">
              <h3 className="border-b border-edge text-lg">{title}</h3>
              <ul>
                {found.map((one) => (
                  <FindingRow
                    key={one.fingerprint}
                    form={form}
                    finding={one}
                    mayEdit={mayEdit}
                    current={!data.stale}
                  />
                ))}
              </ul>
            </section>
          ))}
          <Rest findings={data} />
        </>
      )}
    </>
  );
}

/** Have it looked for where it is not known of the draft as it is. */
function useSought(findings: Findings | undefined, revision: number, look: () => void) {
  const sought = useRef(-1);
  const wanted = findings !== undefined && lacking(findings);
  useEffect(() => {
    if (!wanted || sought.current === revision) return;
    sought.current = revision;
    look();
  }, [wanted, revision, look]);
}

function Summary({ findings }: { findings: Findings }) {
  const { wrong, doubtful } = counts(findings);
  const absent = findings.absent.reduce((sum, { times }) => sum + times, 0);
  return (
    <p role="status" className="mt-1 text-muted">
      <span className={wrong ? "font-semibold text-ochre" : ""}>{wrong} wrong</span>, {doubtful}{" "}
      doubtful; {counted(absent, "question")} proved to have nothing to find,{" "}
      {findings.undecided.length} not decided.
      {(findings.stale || isUnderWay(findings.job)) && " The draft has changed: searching again."}
    </p>
  );
}

function shows(one: Finding, { kind, rule, aside }: typeof USUAL) {
  if (!isOpen(one) && aside === "") return false;
  if (kind !== "" && one.code !== kind) return false;
  return rule === "" || one.rules.some(({ key }) => key === rule);
}

function grouped(found: readonly Finding[], by: string) {
  const groups = new Map<string, Finding[]>();
  for (const one of found) {
    const titles =
      by === "rule"
        ? one.rules.length > 0
          ? one.rules.map(({ name }) => name)
          : ["The form itself"]
        : [one.gravity === "wrong" ? "Wrong" : "Doubtful"];
    for (const title of titles) groups.set(title, [...(groups.get(title) ?? []), one]);
  }
  return [...groups].map(([title, found]) => ({ title, found }));
}

const kindsOf = (found: readonly Finding[]) => [
  ...new Map(found.map(({ code, title }) => [code, title])),
];

const rulesOf = (found: readonly Finding[]) => [
  ...new Map(found.flatMap(({ rules }) => rules.map(({ key, name }) => [key, name] as const))),
];

function Rest({ findings: { absent, undecided, failed } }: { findings: Findings }) {
  return (
    <section aria-label="What was not found" className="mt-8">
      {failed.length > 0 && (
        <p role="alert" className="mb-4 border-l-4 border-madder bg-tint px-3 py-2">
          {counted(failed.length, "search", "searches")} failed, so nothing is known of:{" "}
          {failed.join("; ")}.
        </p>
      )}
      {undecided.length > 0 && (
        <>
          <h3 className="border-b border-edge text-lg">Not decided</h3>
          <ul>
            {undecided.map((one) => (
              <li
                key={`${one.code} ${one.rules.map(({ key }) => key)} ${one.fields.map(({ key }) => key)}`}
                className="border-b border-hairline py-1"
              >
                {one.title}: {[...one.rules, ...one.fields].map(nameOf).join(", ") || "the form"};{" "}
                {one.why}.
              </li>
            ))}
          </ul>
        </>
      )}
      <details className="mt-3">
        <summary className="cursor-pointer text-muted">what was proved to be absent</summary>
        <ul className="columns-2 pl-4 text-sm text-muted">
          {absent.map(({ code, title, times }) => (
            <li key={code}>
              {title}: {times}
            </li>
          ))}
        </ul>
      </details>
    </section>
  );
}

const nameOf = (one: { name: string } | { label: string }) =>
  "name" in one ? `“${one.name}”` : one.label;
