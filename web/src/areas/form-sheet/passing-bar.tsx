// The controls to save and to submit, which say before they are pressed whether it will go through,
// and what stands in the way.
import { useId } from "react";
import { Facet } from "../../ui/facet";
import { useSteady } from "../../ui/pointer";
import { words } from "../../words";
import { levelOf } from "../form/outcomes";
import { goToField } from "./going";
import { type Field, inTheWay, type Judgement } from "./judging";
import { readiness } from "./readiness";

const t = words("formSheet");

type Moment = "save" | "submit";
const NAMED = 5;

type Props = {
  judgement: Judgement | undefined;
  fields: readonly Field[];
  onPress: (moment: Moment) => void;
  busy?: boolean;
  /** Where nothing is saved on the way. */
  submitOnly?: boolean;
};

const CONTROLS = [
  ["save", "Save"],
  ["submit", "Submit"],
] as const;

export function PassingBar(props: Props) {
  const { judgement: newest, fields, onPress, busy = false, submitOnly = false } = props;
  const id = useId();
  const judgement = useSteady(newest);
  return (
    <div className="max-w-xl py-3">
      <div className="grid grid-cols-2 gap-3">
        {CONTROLS.filter(([moment]) => moment === "submit" || !submitOnly).map(([moment, name]) => {
          const verdict = judgement?.[moment];
          return (
            <button
              key={moment}
              type="button"
              aria-disabled={busy || undefined}
              onClick={() => !busy && onPress(moment)}
              aria-describedby={`${id}-${moment}`}
              className="rounded-xs border border-edge bg-leaf px-3 py-1.5 text-left hover:bg-tint"
            >
              <span className="block font-semibold">{name}</span>
              {verdict && (
                <span
                  id={`${id}-${moment}`}
                  className="flex items-start gap-1.5 text-sm leading-snug text-muted"
                >
                  <Facet level={levelOf(verdict.outcome)} size={14} /> {readiness(verdict)}
                </span>
              )}
            </button>
          );
        })}
      </div>
      {judgement && <InTheWay judgement={judgement} fields={fields} submitOnly={submitOnly} />}
    </div>
  );
}

type InTheWayProps = { judgement: Judgement; fields: readonly Field[]; submitOnly: boolean };
type Found = { field: string };

const notAmong = (others: readonly Found[]) => (one: Found) =>
  others.every(({ field }) => field !== one.field);

/** Which fields the counts on the controls count, each to be gone to. */
function InTheWay({ judgement, fields, submitOnly }: InTheWayProps) {
  const atSave = inTheWay(judgement.save, ["block"]);
  const atSubmit = inTheWay(judgement.submit, ["block"]);
  const saving = submitOnly ? [] : atSave;
  const submitting = submitOnly ? [...atSubmit, ...atSave.filter(notAmong(atSubmit))] : atSubmit;
  const known = new Set(saving.map(({ field }) => field));
  const lines = [
    { words: t("to_save"), level: "block" as const, found: saving },
    {
      words: saving.length > 0 ? t("to_submit_also") : t("to_submit"),
      level: "block" as const,
      found: submitting.filter(({ field }) => !known.has(field)),
    },
    { words: t("warned_of"), level: "warn" as const, found: inTheWay(judgement.save, ["warn"]) },
  ];
  const blocked = new Set([...known, ...(lines[1]?.found.map(({ field }) => field) ?? [])]);
  const labels = new Map(fields.map((field) => [field.key, field.label]));
  return (
    <ul aria-label={t("what_stands_in_the_way")} className="mt-1.5 text-sm text-muted empty:hidden">
      {lines.map(({ words, level, found }) => {
        const own = level === "warn" ? found.filter(({ field }) => !blocked.has(field)) : found;
        if (own.length === 0) return null;
        return (
          <li key={words}>
            <Facet level={level} size={11} /> {words}:{" "}
            {own.slice(0, NAMED).map(({ field, text }, place) => (
              <span key={field}>
                {place > 0 && ", "}
                <button
                  type="button"
                  title={text}
                  className="underline hover:text-thistle"
                  onClick={() => goToField(field)}
                >
                  {labels.get(field) ?? field}
                </button>
              </span>
            ))}
            {own.length > NAMED && <> {t("and_more", { count: own.length - NAMED })}</>}
          </li>
        );
      })}
    </ul>
  );
}
