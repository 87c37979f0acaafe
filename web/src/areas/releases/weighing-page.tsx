// The stored records weighed against the draft: what releasing it would newly stop or warn of.
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { Scale } from "lucide-react";
import { useState } from "react";
import { Link, useParams } from "react-router";
import { answer, client, type Schemas } from "../../api/client";
import { isUnderWay, whileUnderWay } from "../../api/jobs";
import { useMay } from "../../api/session";
import { Button } from "../../ui/button";
import { counted } from "../../ui/counts";
import { Facet, type Level } from "../../ui/facet";
import { Page } from "../../ui/page";
import { Trouble } from "../../ui/trouble";
import { writtenMoment, writtenNumber } from "../../ui/written";
import { JobProgress } from "../cases/job-progress";
import { useForm } from "../form/form";

type Weight = Schemas["WeightView"];
type Counted = Schemas["CountedView"];
type RuleWeight = Schemas["RuleWeightView"];

export function WeighingPage() {
  const { formKey = "" } = useParams();
  const form = useForm().data;
  const mayWeigh = useMay("edit_draft");
  const queries = useQueryClient();
  const queryKey = ["weighing", formKey, form?.revision, form?.release?.number ?? 0];
  const path = { form_key: formKey };
  const weighing = useQuery({
    queryKey,
    queryFn: () => answer(client.GET("/api/forms/{form_key}/weighing", { params: { path } })),
    refetchInterval: ({ state }) => whileUnderWay(state.data?.job),
    placeholderData: (before) => before,
  });
  const weigh = useMutation({
    mutationFn: () => answer(client.POST("/api/forms/{form_key}/weighing", { params: { path } })),
    // Known at once to be under way: from then on it is asked for until it is done.
    onSuccess: (job) =>
      queries.setQueryData<Schemas["WeighingView"]>(queryKey, (before) => ({
        weight: before?.weight ?? null,
        stale: before?.stale ?? false,
        job,
      })),
  });
  const { job, weight, stale } = weighing.data ?? { job: null, weight: null, stale: false };
  return (
    <Page title="Stored records" of={form?.name} className="mx-auto w-full max-w-5xl px-6 py-5">
      <div className="flex flex-wrap items-center gap-3">
        <h2 className="mr-auto text-2xl">Stored records against the draft</h2>
        <JobProgress formKey={formKey} job={job} what="record" />
        {mayWeigh && !isUnderWay(job) && (
          <Button look={weight && !stale ? "line" : "solid"} onClick={() => weigh.mutate()}>
            <Scale size={16} aria-hidden="true" /> {job ? "Weigh them again" : "Weigh them"}
          </Button>
        )}
      </div>
      <Trouble error={weighing.error ?? weigh.error} />
      {weighing.data && !weight && !isUnderWay(job) && (
        <p className="mt-3 border-t border-hairline py-6 text-muted">
          Every stored record is judged by the draft and by the release in use, as it is. Then you
          see how many the draft would newly refuse or warn of, by which rule, and which.
        </p>
      )}
      {stale && weight && (
        <p role="status" className="mt-2 border-l-4 border-ochre bg-tint px-3 py-2">
          The draft or the release has changed since: what follows is of before.
        </p>
      )}
      {weight && job && (
        <Weighed formKey={formKey} weight={weight} at={job.ended_at ?? job.created_at} />
      )}
    </Page>
  );
}

const hitBy = ({ newly, harder }: RuleWeight) => newly.count + harder.count;
const NONE: Counted = { count: 0, numbers: [] };

function Weighed({ formKey, weight, at }: { formKey: string; weight: Weight; at: string }) {
  const said: [string, Level, Counted][] = [
    [
      "could be saved, and could not any more as they are",
      "block",
      weight.newly_refused.save ?? NONE,
    ],
    ["could be submitted, and could not any more", "block", weight.newly_refused.submit ?? NONE],
    ["would newly be warned of on saving", "warn", weight.newly_warned.save ?? NONE],
    ["would newly be warned of on submitting", "warn", weight.newly_warned.submit ?? NONE],
    [
      "could not be submitted, and could from then on",
      "clear",
      weight.no_longer_refused.submit ?? NONE,
    ],
  ];
  const rules = Object.values(weight.rules).sort((a, b) => hitBy(b) - hitBy(a));
  return (
    <>
      <p className="mt-2 text-muted">
        {counted(weight.records, "record")}, weighed {writtenMoment(at)} against release{" "}
        {weight.release}.
      </p>
      <ul aria-label="What the draft means for them" className="mt-3 border-t border-edge">
        {said.map(([words, level, found]) => (
          <li key={words} className="border-b border-hairline py-1.5">
            <span className="flex items-center gap-2">
              <span className="w-16 text-right font-serif text-xl">
                {writtenNumber(found.count)}
              </span>
              <Facet level={found.count > 0 ? level : "clear"} size={14} /> {words}
            </span>
            <Which formKey={formKey} found={found} />
          </li>
        ))}
      </ul>
      {rules.length > 0 && <ByRule formKey={formKey} rules={rules} records={weight.records} />}
      {rules.length === 0 && (
        <p className="mt-3 text-muted">
          No rule is broken by other records than before, or told of harder.
        </p>
      )}
      {weight.left_out.length > 0 && (
        <p className="mt-3 text-sm text-muted">
          Not weighed, as they look at other records: {weight.left_out.join(", ")}. A release looks
          at those itself.
        </p>
      )}
    </>
  );
}

type ByRuleProps = { formKey: string; rules: RuleWeight[]; records: number };

function ByRule({ formKey, rules, records }: ByRuleProps) {
  const most = Math.max(
    1,
    ...rules.map(({ newly, no_longer, harder }) =>
      Math.max(newly.count, no_longer.count, harder.count),
    ),
  );
  return (
    <section aria-labelledby="by-rule-title" className="mt-6">
      <h3 id="by-rule-title" className="text-xl">
        By rule
      </h3>
      <ul className="mt-1 border-t border-edge">
        {rules.map((one) => (
          <li key={one.rule} className="border-b border-hairline py-2">
            <p className="font-semibold">{one.name}</p>
            {one.newly.count > 0 && (
              <Bar
                words={`newly broken by ${writtenNumber(one.newly.count)} of ${writtenNumber(records)}${stopsIn(one)}`}
                share={one.newly.count / most}
                look="bg-madder/60"
              />
            )}
            <Which formKey={formKey} found={one.newly} />
            {one.harder.count > 0 && (
              <Bar
                words={`broken as before by ${writtenNumber(one.harder.count)}, and told of harder${one.newly.count > 0 ? "" : stopsIn(one)}`}
                share={one.harder.count / most}
                look="bg-ochre/60"
              />
            )}
            <Which formKey={formKey} found={one.harder} />
            {one.no_longer.count > 0 && (
              <Bar
                words={`no longer broken by ${writtenNumber(one.no_longer.count)}`}
                share={one.no_longer.count / most}
                look="bg-moss/60"
              />
            )}
            <Which formKey={formKey} found={one.no_longer} />
          </li>
        ))}
      </ul>
    </section>
  );
}

function stopsIn({ stops }: RuleWeight) {
  const said = [
    stops.save ? `stops ${writtenNumber(stops.save)} on saving` : "",
    stops.submit ? `${writtenNumber(stops.submit)} on submitting` : "",
  ].filter(Boolean);
  if (said.length === 0) return "; it stops none of them";
  return `; it ${stops.save ? "" : "stops "}${said.join(", ")}`;
}

function Bar({ words, share, look }: { words: string; share: number; look: string }) {
  return (
    <div className="mt-1 grid grid-cols-[minmax(0,1fr)_16rem] items-center gap-3">
      <span>{words}</span>
      <span aria-hidden="true" className="h-3 border border-edge">
        <span
          className={`block h-full ${look}`}
          style={{ width: `${Math.max(2, share * 100)}%` }}
        />
      </span>
    </div>
  );
}

/** Which records, once somebody asks; each leads to the record. */
function Which({ formKey, found }: { formKey: string; found: Counted }) {
  const [open, setOpen] = useState(false);
  if (found.count === 0) return null;
  return (
    <details
      open={open}
      onToggle={(event) => setOpen(event.currentTarget.open)}
      className="text-sm"
    >
      <summary className="cursor-pointer text-thistle">which</summary>
      {open && (
        <p>
          {found.numbers.map((number, place) => (
            <span key={number}>
              {place > 0 && ", "}
              <Link to={`/forms/${formKey}/records/${number}`} className="underline">
                {number}
              </Link>
            </span>
          ))}
          {found.count > found.numbers.length &&
            `, and ${writtenNumber(found.count - found.numbers.length)} more`}
        </p>
      )}
    </details>
  );
}
