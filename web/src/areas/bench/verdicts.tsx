// Saving and submitting side by side: the verdict of each, and every rule's answer with its reason.
import { useState } from "react";
import type { Schemas } from "../../api/client";
import { Facet, LEVEL_COLOUR, type Level } from "../../ui/facet";
import type { Judgement } from "../form-sheet/judging";
import { levelOf, readiness } from "../form-sheet/passing-bar";
import type { FormView } from "../frame/form";
import { isCheck } from "../rules/draft";

type Result = Schemas["RuleResult"];
type Status = Result["status"];
type Props = {
  form: FormView;
  judgement: Judgement;
  onPoint: (fields: readonly string[]) => void;
};

const STATUS_WORDS: Record<Status, string> = {
  unfinished: "unfinished",
  off: "switched off",
  out_of_scope: "out of scope",
  target_not_in_play: "not asked",
  silent: "says nothing",
  does_not_apply: "does not apply",
  nothing_to_judge: "nothing to judge",
  broken: "broken",
  kept: "kept",
};
const OUTCOME_WORDS = {
  clear: "Clear",
  noted: "Noted",
  warned: "Warned",
  blocked: "Blocked",
};
const ALL = "all";

export function Verdicts({ form, judgement, onPoint }: Props) {
  const [only, setOnly] = useState<Status | typeof ALL>(ALL);
  const { save, submit } = judgement;
  const rows = save.results.map((saving, position) => ({
    saving,
    submitting: submit.results[position] ?? saving,
    view: form.rules.find((one) => one.rule.key === saving.rule),
  }));
  const present = new Set(rows.flatMap((row) => [row.saving.status, row.submitting.status]));
  const shown = rows.filter(
    (row) => only === ALL || row.saving.status === only || row.submitting.status === only,
  );
  return (
    <table className="w-full">
      <thead className="text-left">
        <tr className="border-b align-top border-edge *:px-2 *:pb-2 *:font-normal">
          <th className="pl-0!">
            <label className="text-muted">
              Rules{" "}
              <select
                className="line-input ml-1 text-ink"
                value={only}
                onChange={(event) => setOnly(event.target.value as Status | typeof ALL)}
              >
                <option value={ALL}>all {rows.length}</option>
                {[...present].map((status) => (
                  <option key={status} value={status}>
                    {STATUS_WORDS[status]}
                  </option>
                ))}
              </select>
            </label>
          </th>
          <Head name="Saving" verdict={save} />
          <Head name="Submitting" verdict={submit} />
        </tr>
      </thead>
      <tbody>
        {only === ALL && <Unreadable form={form} judgement={judgement} onPoint={onPoint} />}
        {shown.map(({ saving, submitting, view }) => (
          <tr
            key={saving.rule}
            className="border-b border-hairline align-top *:px-2 *:py-1.5"
            onMouseEnter={() => onPoint(view?.rule.targets ?? [])}
            onMouseLeave={() => onPoint([])}
          >
            <td className="pl-0!">
              <p>{view?.rule.name ?? saving.rule}</p>
              <p className="text-sm text-muted">{reasonOf(saving, submitting)}</p>
            </td>
            <Answer result={saving} effect={Boolean(view && !isCheck(view.rule))} />
            <Answer result={submitting} effect={Boolean(view && !isCheck(view.rule))} />
          </tr>
        ))}
      </tbody>
    </table>
  );
}

/** Values that cannot be read as their field's type: they stop saving and submitting by themselves. */
function Unreadable({ form, judgement, onPoint }: Props) {
  return form.fields
    .filter(({ field }) => judgement.save.fields[field.key]?.fault)
    .map(({ field }) => (
      <tr
        key={field.key}
        className="border-b border-hairline align-top *:px-2 *:py-1.5"
        onMouseEnter={() => onPoint([field.key])}
        onMouseLeave={() => onPoint([])}
      >
        <td className="pl-0!">
          <p>{field.label} cannot be read</p>
          <p className="text-sm text-muted">{judgement.save.fields[field.key]?.fault}</p>
        </td>
        <SeverityCell severity="block" />
        <SeverityCell severity="block" />
      </tr>
    ));
}

/** A rule that is silent at one moment is explained by the other. */
function reasonOf(saving: Result, submitting: Result) {
  return saving.status === "silent" ? submitting.reason : saving.reason;
}

function Head({ name, verdict }: { name: string; verdict: Judgement["save"] }) {
  const level = levelOf(verdict);
  return (
    <th className="w-44">
      <span className="block font-serif text-xl">{name}</span>
      <output
        aria-label={`Verdict on ${name.toLowerCase()}`}
        className={`flex items-center gap-1.5 text-lg ${LEVEL_COLOUR[level]}`}
      >
        <Facet level={level} size={20} /> {OUTCOME_WORDS[verdict.outcome]}
      </output>
      <span className="block text-sm text-muted">{readiness(verdict)}</span>
    </th>
  );
}

function SeverityCell({ severity }: { severity: Result["severity"] }) {
  const level = severity as Level;
  return (
    <td>
      <span className={`flex items-center gap-1.5 ${LEVEL_COLOUR[level]}`}>
        <Facet level={level} /> {severity}
      </span>
    </td>
  );
}

/** A rule with an effect is not kept or broken: it is in effect, or it is not. */
function Answer({ result, effect }: { result: Result; effect: boolean }) {
  if (result.status === "broken") return <SeverityCell severity={result.severity} />;
  return (
    <td className={result.status === "kept" ? "text-moss" : "text-muted"}>
      <span className="flex items-center gap-1.5">
        {result.status === "kept" && !effect && <Facet level="clear" />}{" "}
        {effect && result.status === "kept" ? "in effect" : STATUS_WORDS[result.status]}
      </span>
    </td>
  );
}
