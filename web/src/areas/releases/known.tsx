// What is known of a release, before it is made and afterwards: each concern with what it is about.
import { Link } from "react-router";
import type { Schemas } from "../../api/client";
import { Button } from "../../ui/button";
import { Facet, LEVEL_WORDS } from "../../ui/facet";
import { writtenNumber } from "../../ui/written";
import { words } from "../../words";

const t = words("releases");

type Concern = Schemas["Concern"];

/** Where each sort of concern is looked at. */
const PLACES: Record<Concern["about"], [string, string]> = {
  changes: ["releases", "Releases"],
  cases: ["cases", "Cases"],
  rules: ["proof", "Proof"],
  findings: ["findings", "Findings"],
  plan: ["plan", "Plan"],
  records: ["impact", "Impact"],
};

/** What the button says that has it worked out. */
const RUNS: Partial<Record<Concern["about"], string>> = {
  cases: t("run_cases"),
  findings: t("search_again"),
  records: t("work_out_impact"),
};

const LEVELS: Concern["level"][] = ["block", "warn", "note", "clear"];

const gravestFirst = (known: readonly Concern[]) =>
  [...known].sort((a, b) => LEVELS.indexOf(a.level) - LEVELS.indexOf(b.level));

export const isGrave = ({ level }: Concern) => level === "warn" || level === "block";

type Props = {
  formKey: string;
  known: readonly Concern[];
  /** What has something worked out that is lacking. */
  onRun?: (about: Concern["about"]) => void;
  /** Whether the pages that tell more are led to; of a release made long ago they tell of today. */
  leads?: boolean;
};

export function Known({ formKey, known, onRun, leads = true }: Props) {
  return (
    <ul aria-label={t("what_is_known")} className="border-t border-edge">
      {gravestFirst(known).map((one) => (
        <li key={`${one.about} ${one.says}`} className="border-b border-hairline py-1.5">
          <div className="flex items-baseline gap-2">
            <span className="self-center">
              <Facet level={one.level} size={14} />
            </span>
            <span className="mr-auto">
              <span className="sr-only">{LEVEL_WORDS[one.level]}: </span>
              {one.says}
            </span>
            {onRun && one.lacking && one.settled && (
              <Button onClick={() => onRun(one.about)}>{RUNS[one.about] ?? t("run")}</Button>
            )}
            {leads && one.about !== "changes" && (
              <Link
                to={`/forms/${formKey}/${PLACES[one.about][0]}`}
                className="inline-flex min-h-6 items-center text-sm underline"
              >
                {PLACES[one.about][1]}
              </Link>
            )}
          </div>
          <Which items={one.items} />
        </li>
      ))}
    </ul>
  );
}

function Which({ items = [] }: { items?: Concern["items"] }) {
  if (items.length === 0) return null;
  return (
    <details className="ml-6 text-sm">
      <summary className="cursor-pointer text-thistle">{t("which")}</summary>
      <p>{items.map(({ name }) => name).join("; ")}</p>
      {items.length === MOST_NAMED && (
        <p className="text-muted">
          {t("the_first_most_named_of_them", { MOST_NAMED: writtenNumber(MOST_NAMED) })}
        </p>
      )}
    </details>
  );
}

const MOST_NAMED = 50;
