// Findings: what is wrong or doubtful about the rules, known before any record exists.
import { useEffect, useRef } from "react";
import { useParams } from "react-router";
import { isUnderWay } from "../../api/jobs";
import { useMay } from "../../api/session";
import { useAddress } from "../../ui/address";
import { Button } from "../../ui/button";
import { Tick } from "../../ui/inputs";
import { LabelledSelect } from "../../ui/labelled-select";
import { Page } from "../../ui/page";
import { Trouble } from "../../ui/trouble";
import { writtenNumber } from "../../ui/written";
import { words } from "../../words";
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

const t = words("findings");

const USUAL = { by: "gravity", kind: "", rule: "", aside: "" };

export function FindingsPage() {
  const { formKey = "" } = useParams();
  const form = useForm().data;
  return (
    <Page title={t("findings")} of={form?.name} className="mx-auto w-full max-w-5xl px-6 py-5">
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
        <h2 className="mr-auto text-2xl">{t("findings")}</h2>
        <JobProgress formKey={form.key} job={data?.job ?? null} what="question" />
        {stopped && (
          <Button onClick={() => look.mutate()} busy={look.isPending}>
            {t("look_again")}
          </Button>
        )}
      </div>
      <Trouble error={findings.error ?? look.error} />
      {data && !data.looked && (
        <p className="mt-3 border-t border-hairline py-6 text-muted">
          {t("the_rules_are_being_looked_through_for")}
        </p>
      )}
      {data?.looked && (
        <>
          <Summary findings={data} />
          <div className="mt-3 flex flex-wrap items-center gap-x-5 gap-y-2">
            <LabelledSelect
              label={t("listed_by")}
              value={asked.by}
              options={[
                ["gravity", "gravity"],
                ["rule", "rule"],
              ]}
              onChange={(by) => ask({ by })}
            />
            <LabelledSelect
              label={t("of_the_kind")}
              none={t("every_kind")}
              value={asked.kind}
              options={kindsOf(data.found)}
              onChange={(kind) => ask({ kind })}
            />
            <LabelledSelect
              label={t("about")}
              none={t("every_rule")}
              value={asked.rule}
              options={rulesOf(data.found)}
              onChange={(rule) => ask({ rule })}
            />
            <Tick checked={asked.aside !== ""} onChange={(next) => ask({ aside: next ? "1" : "" })}>
              {t("also_dismissed_findings")}
            </Tick>
          </div>
          {shown.length === 0 && (
            <p className="mt-4 border-t border-hairline py-6 text-muted">
              {data.found.some(isOpen)
                ? t("nothing_of_this_kind_was_found")
                : t("nothing_was_found_wrong_or_doubtful")}
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
      {t.rich("how_many_of_each", {
        grave: (chunks) => (
          <span className={wrong ? "font-semibold text-ochre" : ""}>{chunks}</span>
        ),
        wrong,
        doubtful,
        absent,
        absentShown: writtenNumber(absent),
        length: findings.undecided.length,
        isStale: String(Boolean(findings.stale || isUnderWay(findings.job))),
      })}
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
          : [t("the_form_itself")]
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
    <section aria-label={t("what_was_not_found")} className="mt-8">
      {failed.length > 0 && (
        <p role="alert" className="mb-4 border-l-4 border-madder bg-tint px-3 py-2">
          {t("count_searches_failed_so_nothing_is_known", {
            count: failed.length,
            countShown: writtenNumber(failed.length),
            join: failed.join("; "),
          })}
        </p>
      )}
      {undecided.length > 0 && (
        <>
          <h3 className="border-b border-edge text-lg">{t("not_decided")}</h3>
          <ul>
            {undecided.map((one) => (
              <li
                key={`${one.code} ${one.rules.map(({ key }) => key)} ${one.fields.map(({ key }) => key)}`}
                className="border-b border-hairline py-1"
              >
                {one.title}: {[...one.rules, ...one.fields].map(nameOf).join(", ") || t("the_form")}
                ; {one.why}.
              </li>
            ))}
          </ul>
        </>
      )}
      <details className="mt-3">
        <summary className="cursor-pointer text-muted">{t("what_was_proved_to_be_absent")}</summary>
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
