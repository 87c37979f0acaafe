// A rule as a sentence whose parts open where they stand, with what happens when, the message,
// and a try beside it.
import { CopyPlus, Forward } from "lucide-react";
import { type KeyboardEvent, type RefObject, useEffect, useRef, useState } from "react";
import { Refused } from "../../api/client";
import { useAnnounced } from "../../ui/announcer";
import { Button } from "../../ui/button";
import { ChoicePart } from "../../ui/choice-part";
import { EditorFoot } from "../../ui/editor-foot";
import { firstUnsaid, focusAfterList } from "../../ui/focus";
import { Line, Tick } from "../../ui/inputs";
import { useKept } from "../../ui/kept";
import { isStoreKey } from "../../ui/keys";
import { useSettled } from "../../ui/pointer";
import { Sentence } from "../../ui/sentence";
import { ProblemList } from "../../ui/trouble";
import { words } from "../../words";
import type { FormView } from "../form/form";
import {
  type CheckRule,
  isCheck,
  type Kind,
  MOMENT_WORDS,
  MOMENTS,
  type Rule,
  type RuleDraft,
  type RuleView,
} from "../form/rule";
import { newRule, withKind } from "./beginning";
import { ClausePlace, type Reading } from "./clause-place";
import { blankClause, formulaOf, governorOf, group, withClauses } from "./clauses";
import { CopyToForm } from "./copy-to-form";
import { Counting } from "./counting";
import { FoundOfRule } from "./found";
import { StoredRecords } from "./impact";
import { FIRST_KIND, kindOf } from "./kinds";
import type { PartProps } from "./kinds/kind";
import { MessagePart } from "./message-part";
import { Obligation } from "./obligation";
import { useReading, useRemoveRules, useStoreRule } from "./queries";
import { SeverityMark } from "./severity-mark";
import { TryBeside } from "./try-beside";

const t = words("rules");

type Props = {
  form: FormView;
  view: RuleView | null;
  /** It is closed: nothing is written here any more. */
  onClose: () => void;
  /** A new rule has been added, or a copy made, which is to be rewritten. */
  onAdded?: (key: string, rewrite: boolean) => void;
  /** What a new rule begins as. */
  begun?: Begun;
};
export type Begun = { target?: string; kind?: Kind; name?: string };
type Kept = { draft: RuleDraft; revision: number | null };

function begin(form: FormView, view: RuleView | null, begun: Begun = {}): Kept {
  if (view) return { draft: { rule: view.rule, clauses: view.clauses }, revision: view.revision };
  const { target, kind = FIRST_KIND, name = "" } = begun;
  const draft = withKind(newRule(target), kind, form.fields);
  return { draft: { ...draft, rule: { ...draft.rule, name } }, revision: null };
}

/** The same rule, to be changed from there; under another name, where it has one. */
function copyOf(draft: RuleDraft): RuleDraft {
  const { name } = draft.rule;
  return { ...draft, rule: { ...draft.rule, name: name && t("name_copy", { name }) } };
}

export function RuleEditor({ form, view, onClose, onAdded, begun }: Props) {
  const start = begin(form, view, begun);
  const place = view?.rule.key ?? ["new", ...Object.values(begun ?? {})].join(":");
  const kept = useKept<Kept>(`rule:${form.key}:${place}`, start);
  // While nothing was changed here, it follows what is stored.
  const { draft, revision } = kept.dirty || !view ? kept.value : start;
  const { rule } = draft;
  const replaces = view?.rule.key ?? null;
  const reading = useReading(form.key, draft, replaces);
  const store = useStoreRule(form.key, () => kept.forget(start));
  const remove = useRemoveRules(form.key, close);
  const [copying, setCopying] = useState(false);
  /** Whether it was to be stored already: then what is still to be said is told too. */
  const [tried, setTried] = useState(false);
  const section = useRef<HTMLElement>(null);
  const told = useTold(reading.data, section);
  const sentence = useRef<HTMLDivElement>(null);
  const opened = useRef(rule.kind);
  const isNew = useRef(!view);
  useEffect(() => {
    const first = isNew.current ? firstUnsaid(sentence.current) : null;
    (first ?? section.current?.querySelector("input"))?.focus({ preventScroll: true });
    section.current?.scrollIntoView({ block: "nearest" });
  }, []);
  useEffect(() => {
    // Of another kind other things are to be said.
    if (opened.current !== rule.kind) focusAfterList(() => firstUnsaid(sentence.current));
    opened.current = rule.kind;
  }, [rule.kind]);
  function change(next: RuleDraft) {
    kept.change({ draft: next, revision });
  }
  function set(part: Partial<Rule>) {
    change({ ...draft, rule: { ...rule, ...part } as Rule });
  }
  function close() {
    kept.close(start);
    onClose();
  }
  function save(unfinished = false, onTopOf = revision) {
    setTried(true);
    store.mutate(
      { draft, revision: onTopOf, unfinished },
      {
        onSuccess: (stored) => {
          close();
          if (revision === null) onAdded?.(stored.rule.key, false);
        },
      },
    );
  }
  function onKeyDown(event: KeyboardEvent) {
    if (isStoreKey(event) && !store.isPending) save();
    if (event.key === "Escape" && !event.defaultPrevented) onClose();
  }
  const problems = reading.data?.problems ?? [];
  const parts = { form, draft, reading: reading.data, onChange: change };
  const newer = store.error instanceof Refused ? store.error.problem.current : undefined;
  const drafted = reading.data?.called ?? "";
  return (
    <section
      ref={section}
      aria-label={view ? t("rewriting_called", { called: view.called }) : t("a_new_rule")}
      className="my-3 border-l-4 border-thistle bg-leaf px-5 py-4"
      onKeyDown={onKeyDown}
    >
      <label className="flex items-baseline gap-3">
        <span className="text-muted">{t("name")}</span>
        <input
          className="line-input grow"
          value={rule.name}
          spellCheck
          placeholder={problems.length === 0 ? drafted : t("may_stay_blank_it_is_called_by")}
          onChange={(event) => set({ name: event.target.value })}
        />
      </label>
      <div
        ref={sentence}
        className="my-4 flex flex-wrap items-baseline gap-x-1 gap-y-1.5 font-serif text-[1.3rem] leading-9"
      >
        <When {...parts} />
        <Obligation {...parts} />
        <span className="-ml-1">.</span>
      </div>
      <Reads reading={told} tried={tried} />
      <div className="grid grid-cols-1 gap-x-6 gap-y-4 lg:grid-cols-[minmax(0,1fr)_minmax(0,25rem)]">
        <div>
          {isCheck(rule) ? (
            <Speaking rule={rule} reading={reading.data} onChange={set} />
          ) : (
            <EffectWords form={form} draft={draft} reading={reading.data} onChange={change} />
          )}
          <Counting form={form} rule={rule} onChange={set} />
          <div className="mt-3 grid grid-cols-2 gap-x-6">
            <Line
              label={t("why_the_rule_is_there")}
              value={rule.why}
              onChange={(why) => set({ why })}
            />
            {isCheck(rule) && (
              <Line
                label={t("confirmation_when_the_value_is_good")}
                value={rule.confirmation}
                onChange={(confirmation) => set({ confirmation })}
              />
            )}
          </div>
        </div>
        <div>
          <TryBeside form={form} draft={draft} replaces={replaces} />
          <StoredRecords form={form} draft={draft} replaces={replaces} />
          <FoundOfRule form={form} draft={draft} replaces={replaces} />
        </div>
      </div>
      <EditorFoot
        what="rule"
        isNew={!view}
        busy={store.isPending}
        dirty={kept.dirty}
        storing={store.error}
        trouble={remove.error ?? (isHalfTyped(reading.error) ? null : reading.error)}
        newer={newer && <Newer form={form} rule={newer as unknown as Rule} />}
        onStore={() => save()}
        onClose={close}
        onKeepMine={(newer) => {
          kept.change({ draft, revision: newer });
          save(false, newer);
        }}
        onTakeOut={() => view && remove.mutate([view])}
        asideStore={
          tried &&
          problems.length > 0 && (
            <Button busy={store.isPending} onClick={() => save(true)}>
              {t("keep_it_unfinished")}
            </Button>
          )
        }
      >
        <Button
          look="quiet"
          busy={kept.dirty || store.isPending}
          onClick={() =>
            store.mutate(
              { draft: copyOf(draft), revision: null, unfinished: true },
              { onSuccess: (copied) => onAdded?.(copied.rule.key, true) },
            )
          }
        >
          <CopyPlus size={16} aria-hidden="true" /> {t("copy_it")}
        </Button>
        <Button look="quiet" busy={kept.dirty} onClick={() => setCopying(true)}>
          <Forward size={16} aria-hidden="true" /> {t("to_another_form")}
        </Button>
      </EditorFoot>
      {view && (
        <CopyToForm
          form={form}
          rule={view.rule}
          called={view.called}
          open={copying}
          onOpenChange={setCopying}
        />
      )}
    </section>
  );
}

/** Whether the server could not read a day that is still being typed: the day tells it itself. */
function isHalfTyped(error: unknown) {
  return (
    error instanceof Refused &&
    error.problem.errors?.every(({ place }) => place.includes("in_force_")) === true
  );
}

/** How long somebody pauses before what is wrong is told; a day is told once it is left. */
const PAUSE = 600; // milliseconds

/** The reading as it is told: after a pause, and not while a day is being typed. */
function useTold(reading: Reading, within: RefObject<HTMLElement | null>): Reading {
  const settled = useSettled(reading, PAUSE);
  const [inDay, setInDay] = useState(false);
  const shown = useRef<Reading>(undefined);
  useEffect(() => {
    const box = within.current;
    const note = (event: FocusEvent) =>
      setInDay(event.type === "focusin" && "day" in ((event.target as HTMLElement).dataset ?? {}));
    box?.addEventListener("focusin", note);
    box?.addEventListener("focusout", note);
    return () => {
      box?.removeEventListener("focusin", note);
      box?.removeEventListener("focusout", note);
    };
  }, [within]);
  const corrected = reading?.problems.length === 0;
  if (corrected || !inDay) shown.current = corrected ? reading : settled;
  return shown.current;
}

/** How the rule reads, or what is to be corrected; what nobody has said yet is told once it is missed. */
function Reads({ reading, tried }: { reading: Reading; tried: boolean }) {
  const problems = reading?.problems ?? [];
  const wrong = problems.filter(({ unsaid }) => tried || !unsaid);
  const sentence = (reading?.sentence ?? []).map(({ text }) => text).join("");
  const said = wrong.map(({ message, remedy }) => `${message} ${remedy}`).join(" ");
  useAnnounced(
    "rule",
    said || (problems.length === 0 && sentence ? t("the_rule_sentence", { sentence }) : ""),
  );
  return (
    <div className="mb-3 min-h-6 text-[0.95rem]">
      {wrong.length > 0 && (
        <div className="text-madder">
          {t("fix_before_it_can_work")}
          <ProblemList items={wrong} />
        </div>
      )}
      {reading && problems.length === 0 && (
        <p className="text-muted">
          {t("reads")} <Sentence segments={reading?.sentence ?? []} />
        </p>
      )}
      {reading && problems.length === 0 && reading.advice.length > 0 && (
        <div className="text-ochre">
          <ProblemList items={reading.advice} />
        </div>
      )}
    </div>
  );
}

/** Somebody else's newer version of the rule, as it reads. */
function Newer({ form, rule }: { form: FormView; rule: Rule }) {
  const reading = useReading(form.key, { rule, clauses: {} }, rule.key).data;
  return (
    <p>
      {t("the_newer_one_reads", { name: String(Boolean(rule.name)), name2: rule.name })}{" "}
      <Sentence segments={reading?.sentence ?? []} />
      {isCheck(rule) && (
        <span className="text-muted">
          {t("typing_entry_saving_save_submitting_submit", {
            entry: rule.severity.entry,
            save: rule.severity.save,
            submit: rule.severity.submit,
          })}
        </span>
      )}
    </p>
  );
}

type SpeakingProps = {
  rule: CheckRule;
  reading: Reading;
  onChange: (part: Partial<CheckRule>) => void;
};

function Speaking({ rule, reading, onChange }: SpeakingProps) {
  return (
    <>
      <fieldset className="flex gap-8">
        <legend className="text-muted">{t("what_happens_when_it_is_violated")}</legend>
        {MOMENTS.map((moment) => (
          <div key={moment} className="flex items-center gap-1">
            <span>{MOMENT_WORDS[moment]}</span>
            <SeverityMark
              rule={rule.name || t("new_rule")}
              moment={moment}
              severity={rule.severity[moment]}
              counts={reading?.speaks[moment]}
              holds={rule.hold}
              onStep={(next) =>
                onChange({
                  severity: { ...rule.severity, [moment]: next } as Rule["severity" & keyof Rule],
                })
              }
            />
          </div>
        ))}
      </fieldset>
      {rule.severity.entry !== "none" &&
        !rule.hold &&
        rule.severity.save === "none" &&
        rule.severity.submit === "none" && (
          <p className="mt-1 text-ochre">{t("it_acts_only_while_typing_so_a")}</p>
        )}
      <div className="mt-2 flex flex-wrap gap-x-6 gap-y-1">
        <Tick checked={rule.hold} onChange={(hold) => onChange({ hold })}>
          {t("saving_goes_through_and_puts_the_record")}
        </Tick>
        <Tick
          checked={rule.reason_required}
          onChange={(reason_required) => onChange({ reason_required })}
        >
          {t("a_warning_passes_only_with_a_reason")}
        </Tick>
      </div>
      <MessagePart rule={rule} reading={reading} onChange={onChange} />
    </>
  );
}

/** What effects tell people: why a field waits, and what a proposal explains. */
function EffectWords(props: PartProps) {
  const { rule } = props.draft;
  const { Words } = kindOf(rule);
  if (Words) return <Words {...props} rule={rule} />;
  return <p className="text-muted">{t("it_stops_nobody_it_says_what_is")}</p>;
}

const ALWAYS = "always";
const UNDER_A_CONDITION = "when";
const FIELD = "field:";
type WhenProps = {
  form: FormView;
  draft: RuleDraft;
  reading: Reading;
  onChange: (draft: RuleDraft) => void;
};

function When({ form, draft, reading, onChange }: WhenProps) {
  const conditional = Boolean(draft.clauses.when) || formulaOf(draft.rule, "when") !== null;
  const needed = kindOf(draft.rule).needsCondition;
  function choose(value: string) {
    const key = value.startsWith(FIELD) ? value.slice(FIELD.length) : null;
    const field = key
      ? form.fields.find((one) => one.field.key === key)
      : governorOf(form.fields, draft.rule.targets);
    const none = value === ALWAYS || !field;
    onChange(withClauses(draft, "when", none ? null : group("and", [blankClause(field)])));
  }
  const fields = form.fields.map(({ field }) => ({ value: FIELD + field.key, label: field.label }));
  return (
    <>
      <ChoicePart
        label={t("always_or_under_a_condition")}
        value={conditional ? UNDER_A_CONDITION : ALWAYS}
        groups={[
          {
            options: [
              ...(needed ? [] : [{ value: ALWAYS, label: t("always") }]),
              { value: UNDER_A_CONDITION, label: t("when_2") },
            ],
          },
          ...(conditional ? [] : [{ label: t("when_by_the_answer_to"), options: fields }]),
        ]}
        onChoose={choose}
      />
      {conditional && (
        <>
          <ClausePlace
            form={form}
            draft={draft}
            reading={reading}
            place="when"
            label={t("condition")}
            onChange={onChange}
            onNone={needed ? undefined : () => onChange(withClauses(draft, "when", null))}
          />
          {draft.clauses.when && <span className="-ml-1">,</span>}
        </>
      )}
    </>
  );
}
