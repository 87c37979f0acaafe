// Saving and submitting side by side: the verdict of each, and every rule's answer with its reason.
import { ChevronDown, ChevronRight } from "lucide-react";
import { type ReactNode, useState } from "react";
import { Link } from "react-router";
import type { Schemas } from "../../api/client";
import { useMay } from "../../api/session";
import { Button } from "../../ui/button";
import { Chip } from "../../ui/chip";
import { Facet, LEVEL_COLOUR, type Level } from "../../ui/facet";
import { useSteady } from "../../ui/pointer";
import { Sentence } from "../../ui/sentence";
import { words } from "../../words";
import { levelOf, OUTCOME_WORDS, STATUS_WORDS } from "../form/outcomes";
import type { Judgement } from "../form-sheet/judging";
import { readiness } from "../form-sheet/readiness";
import { Trace } from "./trace";
import type { BenchForm, BenchRequest } from "./trying";

const t = words("bench");

type Result = Schemas["RuleResultView"];
type Status = Result["status"];
type Rule = BenchForm["rules"][number];
type Row = { saving: Result; submitting: Result; rule: Rule };
type Props = {
  form: BenchForm;
  revision: number;
  request: BenchRequest;
  judgement: Judgement;
  /** The field the pointer or the cursor is in. */
  at: string | null;
  /** The field the cursor was in last: what is asked about, wherever the pointer passes. */
  within: string | null;
  onPoint: (fields: readonly string[]) => void;
  onGoTo: (field: string) => void;
  onSwitch: (rule: string) => void;
  /** What stands beside the verdicts, and under them. */
  beside: ReactNode;
  under: ReactNode;
};

/** The order of the filters. */
const ORDER: Status[] = [
  "violated",
  "satisfied",
  "not_evaluable",
  "not_applicable",
  "not_relevant",
  "out_of_scope",
  "silent",
  "disabled",
  "unfinished",
];
const ALL = "all";
type Only = Status | typeof ALL;

export function Verdicts(props: Props) {
  const { form, within } = props;
  const judgement = useSteady(props.judgement);
  const [only, setOnly] = useState<Only>(ALL);
  const [here, setHere] = useState(false);
  const [open, setOpen] = useState<string | null>(null);
  const mayEdit = useMay("edit_draft");
  const { save, submit } = judgement;
  const rules = new Map(form.rules.map((rule) => [rule.key, rule]));
  const rows = save.results.flatMap((saving, position): Row[] => {
    const rule = rules.get(saving.rule);
    return rule ? [{ saving, submitting: submit.results[position] ?? saving, rule }] : [];
  });
  const has = (row: Row, status: Status) =>
    row.saving.status === status || row.submitting.status === status;
  const shown = rows.filter(
    (row) =>
      (only === ALL || has(row, only)) && (!here || !within || row.rule.reads.includes(within)),
  );
  const label = form.fields.find((field) => field.key === within)?.label;
  return (
    <>
      <div className="grid grid-cols-[minmax(0,1fr)_9.5rem_9.5rem] gap-x-2 pt-2">
        {props.beside}
        <Head name="Saving" verdict={save} />
        <Head name="Submitting" verdict={submit} />
      </div>
      {props.under}
      <fieldset className="flex flex-wrap items-center gap-x-1 gap-y-0.5 border-b border-edge py-1.5 text-sm">
        <legend className="sr-only">{t("which_rules_to_show")}</legend>
        <Chip chosen={only === ALL} onChoose={() => setOnly(ALL)}>
          {t("all_length", { length: rows.length })}
        </Chip>
        {ORDER.filter((status) => rows.some((row) => has(row, status))).map((status) => (
          <Chip key={status} chosen={only === status} onChoose={() => setOnly(status)}>
            {STATUS_WORDS[status]} {rows.filter((row) => has(row, status)).length}
          </Chip>
        ))}
        {label && (
          <Chip chosen={here} onChoose={() => setHere(!here)}>
            {t("about_label", { label })}
          </Chip>
        )}
        {label && mayEdit && (
          <Link
            to={`/forms/${form.key}/rules?rule=new&about=${within}`}
            className="px-2 text-thistle hover:underline"
          >
            {t("new_rule_about_it")}
          </Link>
        )}
      </fieldset>
      <table className="w-full">
        <thead className="sr-only">
          <tr>
            <th scope="col">{t("rule")}</th>
            <th scope="col">{t("saving")}</th>
            <th scope="col">{t("submitting")}</th>
          </tr>
        </thead>
        <tbody>
          {only === ALL && <Unreadable {...props} />}
          {shown.map((row) => (
            <RuleRow
              key={row.rule.key}
              row={row}
              open={open === row.rule.key}
              onOpen={() => setOpen(open === row.rule.key ? null : row.rule.key)}
              {...props}
            />
          ))}
        </tbody>
      </table>
      {shown.length === 0 && <p className="py-3 text-muted">{t("no_rule_is_to_be_shown_this")}</p>}
    </>
  );
}

type RowProps = Props & { row: Row; open: boolean; onOpen: () => void };

function RuleRow({ row, open, onOpen, ...props }: RowProps) {
  const { saving, submitting, rule } = row;
  const { form, revision, request, at, onPoint } = props;
  const pointed = at !== null && rule.reads.includes(at);
  const labelOf = (key: string) => form.fields.find((field) => field.key === key)?.label ?? key;
  const isOff = request.off?.includes(rule.key);
  return (
    <>
      <tr
        data-rule={rule.key}
        className={`align-top *:px-2 *:py-1.5 ${pointed ? "bg-tint" : ""} ${open ? "" : "border-b border-hairline"}`}
        onMouseEnter={() => onPoint(rule.reads)}
        onMouseLeave={() => onPoint([])}
        onFocus={() => onPoint(rule.reads)}
        onBlur={() => onPoint([])}
      >
        <th scope="row" className="pl-0! text-left font-normal">
          <button
            type="button"
            aria-expanded={open}
            onClick={onOpen}
            className="flex items-start gap-1 text-left hover:text-thistle"
          >
            <span className="mt-1 shrink-0 text-muted" aria-hidden="true">
              {open ? <ChevronDown size={14} /> : <ChevronRight size={14} />}
            </span>
            {rule.name}
          </button>
          <p className="pl-4.5 text-sm text-muted">
            {saving.status === "silent" ? submitting.reason : saving.reason}
          </p>
        </th>
        <Answer result={saving} effect={rule.effect} />
        <Answer result={submitting} effect={rule.effect} />
      </tr>
      {open && (
        <tr className="border-b border-hairline">
          <td colSpan={3} className="pb-3 pl-4.5">
            <p className="mb-1">
              <Sentence segments={rule.sentence} />
            </p>
            <Trace
              form={{ key: form.key, revision }}
              request={request}
              rule={rule.key}
              effect={rule.effect}
              labelOf={labelOf}
            />
            <p className="mt-2 flex flex-wrap items-center gap-x-3 gap-y-1 text-sm">
              {rule.reads.slice(0, 6).map((key) => (
                <button
                  key={key}
                  type="button"
                  className="min-h-6 text-thistle hover:underline"
                  onClick={() => props.onGoTo(key)}
                >
                  {t("to_key", { key: labelOf(key) })}
                </button>
              ))}
              <Button
                look="quiet"
                className="ml-auto"
                busy={!rule.enabled && !isOff}
                onClick={() => props.onSwitch(rule.key)}
              >
                {isOff ? t("try_with_this_rule_again") : t("try_without_this_rule")}
              </Button>
            </p>
          </td>
        </tr>
      )}
    </>
  );
}

/** Values that cannot be read as their field's type: they stop saving and submitting by themselves. */
function Unreadable({ form, judgement, onPoint }: Props) {
  return form.fields
    .filter((field) => judgement.save.fields[field.key]?.fault)
    .map((field) => (
      <tr
        key={field.key}
        className="border-b border-hairline align-top *:px-2 *:py-1.5"
        onMouseEnter={() => onPoint([field.key])}
        onMouseLeave={() => onPoint([])}
      >
        <td className="pl-4.5!">
          <p>{t("label_cannot_be_read", { label: field.label })}</p>
          <p className="text-sm text-muted">{judgement.save.fields[field.key]?.fault}</p>
        </td>
        <SeverityCell severity="block" />
        <SeverityCell severity="block" />
      </tr>
    ));
}

type HeadProps = { name: string; verdict: Judgement["save"] };

function Head({ name, verdict }: HeadProps) {
  const level = levelOf(verdict.outcome);
  return (
    <section aria-label={name}>
      <h4 className="text-xl">{name}</h4>
      <output
        aria-live="off"
        aria-label={t("verdict_on_tolowercase", { toLowerCase: name.toLowerCase() })}
        className={`flex items-center gap-1.5 text-lg ${LEVEL_COLOUR[level]}`}
      >
        <Facet level={level} size={20} /> {OUTCOME_WORDS[verdict.outcome]}
      </output>
      <p className="text-sm text-muted">
        {t("readiness_and_hold", {
          readiness: readiness(verdict),
          holds: String(verdict.moment === "save" && verdict.held_by.length > 0),
        })}
      </p>
    </section>
  );
}

function SeverityCell({ severity }: { severity: Result["severity"] }) {
  const level = severity as Level;
  return (
    <td className="w-38">
      <span className={`flex items-center gap-1.5 ${LEVEL_COLOUR[level]}`}>
        <Facet level={level} /> {severity}
      </span>
    </td>
  );
}

/** A rule with an effect is not met or violated: it is in effect, or it is not. */
function Answer({ result, effect }: { result: Result; effect: boolean }) {
  if (result.status === "violated") return <SeverityCell severity={result.severity} />;
  return (
    <td className={`w-38 ${result.status === "satisfied" ? "text-moss" : "text-muted"}`}>
      <span className="flex items-center gap-1.5">
        {result.status === "satisfied" && !effect && <Facet level="clear" />}{" "}
        {effect && result.status === "satisfied" ? t("in_effect") : STATUS_WORDS[result.status]}
      </span>
    </td>
  );
}
