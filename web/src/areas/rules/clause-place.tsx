// A place of a rule that is a condition: as clauses, or with one key as the same formula.
import { hashKey, useMutation } from "@tanstack/react-query";
import { Braces, List } from "lucide-react";
import { type KeyboardEvent, lazy, Suspense, useEffect, useRef, useState } from "react";
import { Button } from "../../ui/button";
import { Trouble } from "../../ui/trouble";
import { words } from "../../words";
import type { FormView } from "../form/form";
import { type ClauseGroup, type Place, type RuleDraft, ruleInputOf } from "../form/rule";
import { blankClause, formulaOf, group, withClauses, withFormula } from "./clauses";
import { Condition } from "./condition";
import { useRead, type useReading } from "./queries";

const t = words("rules");

const FormulaBox = lazy(() => import("./formula-box"));

export type Reading = ReturnType<typeof useReading>["data"];
type Answered = NonNullable<Reading>;
type Props = {
  form: FormView;
  draft: RuleDraft;
  reading: Reading;
  place: Place;
  label: string;
  onChange: (draft: RuleDraft) => void;
  others?: boolean;
  /** What happens when the last clause is removed; without it, a blank clause stays. */
  onNone?: () => void;
};

/** Whether anything has been said yet: a lone clause that compares with nothing says nothing. */
function isBegun(clauses: ClauseGroup | undefined) {
  const [only, second] = clauses?.parts ?? [];
  if (!only || second || only.kind === "group") return true;
  return only.operand?.kind !== "value" || only.operand.value !== "";
}

function isSame(draft: RuleDraft, other: RuleDraft) {
  return hashKey([ruleInputOf(draft)]) === hashKey([ruleInputOf(other)]);
}

/** The key that turns clauses into the formula and back. */
const TURN_KEY = "F2";

export function ClausePlace({ form, draft, reading, place, label, onChange, ...rest }: Props) {
  const clauses = draft.clauses[place];
  const [said, setSaid] = useState<string | null>(null);
  const box = useRef<HTMLSpanElement>(null);
  const [turned, setTurned] = useState(false);
  const isFormula = !clauses;
  useEffect(() => {
    // What took the place of the other spelling takes the focus too; the formula does by itself.
    if (turned && !isFormula) box.current?.querySelector("button")?.focus();
  }, [turned, isFormula]);
  const formula = formulaOf(draft.rule, place) ?? "";
  const read = useRead(form.key);
  const latest = useRef({ draft, onChange });
  latest.current = { draft, onChange };
  const own = reading?.problems.filter((one) => one.place.startsWith(place)) ?? [];

  function asFormula(read: Answered) {
    const torn = read.problems.some((one) => one.place.startsWith(`clauses.${place}`));
    return torn ? null : formulaOf(read.rule, place);
  }
  async function toFormula() {
    const written = isBegun(clauses) ? asFormula(await readLatest()) : "";
    if (written === null) return setSaid(t("correct_the_clauses_first_then_look_at"));
    turnInto(withFormula(latest.current.draft, place, written));
  }
  async function toClauses() {
    const first = form.fields[0];
    const next =
      formula.trim() === "" && first
        ? group("and", [blankClause(first, rest.others ? "other" : "value")])
        : (await readLatest()).clauses[place];
    if (!next) return setSaid(t("only_a_formula_can_say_this_so"));
    turnInto(withClauses(latest.current.draft, place, next));
  }
  function turnInto(next: RuleDraft) {
    setSaid(null);
    setTurned(true);
    latest.current.onChange(next);
  }
  /** What was typed meanwhile counts as well: read until nothing new was typed. */
  async function readLatest(): Promise<Answered> {
    const asked = latest.current.draft;
    const answered = await read(asked);
    return isSame(latest.current.draft, asked) ? answered : readLatest();
  }
  const turning = useMutation({ mutationFn: () => (clauses ? toFormula() : toClauses()) });
  function onKeyDown(event: KeyboardEvent) {
    if (event.key !== TURN_KEY) return;
    event.preventDefault();
    turning.mutate();
  }
  return (
    // biome-ignore lint/a11y/noStaticElementInteractions: the key works wherever the focus is inside
    <span ref={box} className={clauses ? "contents" : "w-full"} onKeyDown={onKeyDown}>
      {clauses ? (
        <Condition
          form={form}
          whole={clauses}
          label={label}
          others={rest.others}
          onChange={(next) => (next || !rest.onNone ? change(next) : rest.onNone())}
        />
      ) : (
        <Suspense fallback={<span className="text-muted">…</span>}>
          <FormulaBox
            form={form}
            label={t("touppercase_slice_as_a_formula", {
              toUpperCase: label[0]?.toUpperCase() ?? "",
              slice: label.slice(1),
            })}
            value={formula}
            problems={own}
            takesFocus={turned}
            onChange={(next) => onChange(withFormula(draft, place, next))}
          />
        </Suspense>
      )}
      <Button
        look="quiet"
        className="font-sans text-sm"
        aria-label={
          clauses ? t("the_label_as_a_formula", { label }) : t("the_label_as_a_sentence", { label })
        }
        title={`${clauses ? t("as_a_formula") : t("as_a_sentence")} (${TURN_KEY})`}
        onClick={() => turning.mutate()}
      >
        {clauses ? <Braces size={14} aria-hidden="true" /> : <List size={14} aria-hidden="true" />}
        {clauses ? t("formula") : t("sentence")}
      </Button>
      {said && (
        <span role="status" className="font-sans text-base text-ochre">
          {said}
        </span>
      )}
      <Trouble error={turning.error} />
    </span>
  );

  function change(next: Parameters<typeof withClauses>[2]) {
    const first = form.fields[0];
    const blank = first && group("and", [blankClause(first, rest.others ? "other" : "value")]);
    onChange(withClauses(draft, place, next ?? blank ?? null));
  }
}
