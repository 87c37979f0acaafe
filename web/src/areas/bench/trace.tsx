// How a rule came to what it says: its conditions part by part, each with its value.
import type { Schemas } from "../../api/client";
import { words } from "../../words";
import { type BenchRequest, useTrace } from "./trying";

const t = words("bench");

type TraceStep = Schemas["TraceStep"];
type Props = {
  form: { key: string; revision: number };
  request: BenchRequest;
  rule: string;
  /** Whether it has an effect, and so gives values rather than judges them. */
  effect: boolean;
  labelOf: (field: string) => string;
};

export function Trace({ form, request, rule, effect, labelOf }: Props) {
  const trace = useTrace(form, request, rule).data;
  if (!trace || trace.rule !== rule) return <p className="text-muted">{t("asking")}</p>;
  return (
    <div className="border-l-2 border-hairline pl-3 text-[0.95rem]">
      {trace.when && <Part title={t("it_applies_when")} step={trace.when} />}
      {trace.until && <Part title={t("they_wait_until")} step={trace.until} />}
      {trace.judgements.map((one) => (
        <div key={one.fields.join()}>
          <Part
            title={
              trace.judgements.length > 1 || effect
                ? t("fields_of_a_judgement", {
                    effect: String(Boolean(effect)),
                    fields: one.fields.map(labelOf).join(", "),
                  })
                : t("it_must_be_true_that")
            }
            step={one.step}
          />
          {one.wanting.length > 0 && (
            <p className="text-muted">
              {t("nothing_to_check_while_join_is_blank", {
                join: one.wanting.map(labelOf).join(" and "),
              })}
            </p>
          )}
        </div>
      ))}
      <dl className="mt-1 flex flex-wrap gap-x-4 text-muted">
        {Object.entries(trace.values).map(([field, value]) => (
          <div key={field} className="flex gap-1">
            <dt>{labelOf(field)}:</dt>
            <dd className="text-ink">{value}</dd>
          </div>
        ))}
      </dl>
    </div>
  );
}

function Part({ title, step }: { title: string; step: TraceStep }) {
  return (
    <div className="mt-1">
      <p className="text-sm text-muted">{title}</p>
      <ul>
        <Branch step={step} />
      </ul>
    </div>
  );
}

const MARK: Record<string, [string, string]> = {
  yes: ["text-moss", "✓"],
  no: ["text-madder", "✗"],
  "no answer": ["text-muted", "–"],
};

/** One part with its answer, and its own parts beneath. */
function Branch({ step }: { step: TraceStep }) {
  const [colour, sign] = MARK[step.answer] ?? ["text-ink", "="];
  return (
    <li>
      <span className="flex items-baseline gap-1.5">
        <span aria-hidden="true" className={`w-3 ${colour}`}>
          {sign}
        </span>
        <span title={step.formula ?? undefined}>
          {step.words} <span className={`font-semibold ${colour}`}>{step.answer}</span>
        </span>
      </span>
      {step.parts.length > 0 && (
        <ul className="ml-1.5 border-l border-hairline pl-3">
          {step.parts.map((part, place) => (
            // biome-ignore lint/suspicious/noArrayIndexKey: the same part may stand here twice
            <Branch key={`${place}-${part.words}`} step={part} />
          ))}
        </ul>
      )}
    </li>
  );
}
