// A rule as a sentence whose parts open where they stand, with what happens when, and the message.
import { CopyPlus } from "lucide-react";
import { type KeyboardEvent, useEffect, useRef } from "react";
import type { Schemas } from "../../api/client";
import { Button } from "../../ui/button";
import { ChoicePart } from "../../ui/choice-part";
import { EditorFoot } from "../../ui/editor-foot";
import { Line, Tick } from "../../ui/inputs";
import { useKept } from "../../ui/kept";
import { Sentence } from "../../ui/sentence";
import { ProblemList } from "../../ui/trouble";
import type { FormView } from "../frame/form-frame";
import { Condition } from "./condition";
import { Counting } from "./counting";
import {
  blankClause,
  group,
  isWritten,
  MOMENT_WORDS,
  MOMENTS,
  newRule,
  type Rule,
  type RuleDraft,
} from "./draft";
import { Obligation } from "./obligation";
import { useReading, useRemoveRule, useStoreRule } from "./queries";
import { SeverityMark } from "./severity-mark";

type View = Schemas["RuleView"];
type Props = { form: FormView; view: View | null; onClose: () => void };
type Kept = { draft: RuleDraft; version: number | null };

const PLACEMENTS = [
  { value: "field", label: "at the field" },
  { value: "top", label: "at the top of the form" },
  { value: "both", label: "at the field and at the top" },
];

function begin(form: FormView, view: View | null): Kept {
  if (!view) return { draft: newRule(form.fields[0]?.field.key ?? ""), version: null };
  const { rule, when_clauses: when, must_clauses: must, version } = view;
  if (!isWritten(rule)) throw new Error(`${rule.kind} has no sentence to write`);
  return { draft: { rule, when, must }, version };
}

/** The same rule under another name, to be changed from there. */
function copyOf(draft: RuleDraft): RuleDraft {
  return { ...draft, rule: { ...draft.rule, name: `${draft.rule.name} (copy)` } };
}

export function RuleEditor({ form, view, onClose }: Props) {
  const start = begin(form, view);
  const kept = useKept<Kept>(`rule:${form.key}:${view?.rule.key ?? "new"}`, start);
  const { draft, version } = kept.value;
  const { rule } = draft;
  const reading = useReading(form.key, draft);
  const store = useStoreRule(form.key);
  const remove = useRemoveRule(form.key);
  const section = useRef<HTMLElement>(null);
  useEffect(() => {
    section.current?.querySelector("input")?.focus({ preventScroll: true });
    section.current?.scrollIntoView({ block: "nearest" });
  }, []);

  function change(next: RuleDraft) {
    kept.change({ draft: next, version });
  }
  function set(part: Partial<Rule>) {
    change({ ...draft, rule: { ...rule, ...part } as Rule });
  }
  function close() {
    kept.forget(start);
    onClose();
  }
  function save() {
    store.mutate({ draft, version }, { onSuccess: close });
  }
  function onKeyDown(event: KeyboardEvent) {
    if (event.key === "Enter" && (event.ctrlKey || event.metaKey)) save();
    if (event.key === "Escape" && !event.defaultPrevented) onClose();
  }
  const problems = reading.data?.problems ?? [];
  return (
    <section
      ref={section}
      aria-label={view ? `Rewriting “${view.rule.name}”` : "A new rule"}
      className="my-3 border-l-4 border-thistle bg-leaf px-5 py-4"
      onKeyDown={onKeyDown}
    >
      <label className="flex items-baseline gap-3">
        <span className="text-muted">Name</span>
        <input
          className="line-input grow"
          value={rule.name}
          spellCheck
          placeholder="What it holds, such as “Holotypes name their determiner”"
          onChange={(event) => set({ name: event.target.value })}
        />
      </label>
      <div className="my-4 flex flex-wrap items-baseline gap-x-1 gap-y-1.5 font-serif text-[1.3rem] leading-9">
        <When form={form} draft={draft} onChange={change} />
        <Obligation form={form} draft={draft} onChange={change} />
        <span className="-ml-1">.</span>
      </div>
      <div role="status" className="mb-3 text-[0.95rem]">
        {problems.length > 0 ? (
          <div className="text-madder">
            To be mended before it can be stored:
            <ProblemList items={problems} />
          </div>
        ) : (
          <p className="text-muted">
            Reads: <Sentence segments={reading.data?.sentence ?? []} />
          </p>
        )}
      </div>
      <fieldset className="flex gap-8">
        <legend className="text-muted">What happens when it is broken</legend>
        {MOMENTS.map((moment) => (
          <div key={moment} className="flex items-center gap-1">
            <span>{MOMENT_WORDS[moment]}</span>
            <SeverityMark
              rule={rule.name || "new rule"}
              moment={moment}
              severity={rule.severity[moment]}
              holds={rule.hold}
              onStep={(next) =>
                set({ severity: { ...rule.severity, [moment]: next } as Rule["severity"] })
              }
            />
          </div>
        ))}
      </fieldset>
      <div className="mt-2 flex flex-wrap gap-x-6 gap-y-1">
        <Tick checked={rule.hold} onChange={(hold) => set({ hold })}>
          saving goes through, and puts the record on hold
        </Tick>
        <Tick
          checked={rule.reason_demanded}
          onChange={(reason_demanded) => set({ reason_demanded })}
        >
          a warning passes only with a reason
        </Tick>
      </div>
      <label className="mt-3 block">
        <span className="text-muted">Message (drafted from the rule until you word it)</span>
        <textarea
          className="line-input mt-1 block w-full"
          rows={2}
          spellCheck
          value={rule.message ?? ""}
          placeholder={reading.data?.drafted_message}
          onChange={(event) => set({ message: event.target.value || null })}
        />
      </label>
      <div className="mt-1">
        It stands{" "}
        <ChoicePart
          label="Where the message stands"
          value={rule.placement}
          groups={[{ options: PLACEMENTS }]}
          onChoose={(placement) => set({ placement: placement as Rule["placement"] })}
        />
      </div>
      <Counting rule={rule} onChange={set} />
      <div className="mt-3 grid grid-cols-2 gap-x-6">
        <Line label="Why the rule is there" value={rule.why} onChange={(why) => set({ why })} />
        <Line
          label="Said of a good value while typing"
          value={rule.acknowledged}
          onChange={(acknowledged) => set({ acknowledged })}
        />
      </div>
      <EditorFoot
        what="rule"
        isNew={!view}
        busy={store.isPending}
        dirty={kept.dirty}
        storing={store.error}
        trouble={remove.error ?? reading.error}
        onStore={save}
        onClose={close}
        onKeepMine={(newer) => {
          kept.change({ draft, version: newer });
          store.reset();
        }}
        onTakeOut={() => view && remove.mutate(view, { onSuccess: close })}
      >
        <Button
          look="quiet"
          disabled={kept.dirty || store.isPending}
          onClick={() => store.mutate({ draft: copyOf(draft), version: null })}
        >
          <CopyPlus size={16} aria-hidden="true" /> Copy it
        </Button>
      </EditorFoot>
    </section>
  );
}

const ALWAYS = "always";
const UNDER_A_CONDITION = "when";

type PartProps = { form: FormView; draft: RuleDraft; onChange: (draft: RuleDraft) => void };

function When({ form, draft, onChange }: PartProps) {
  const formulaOnly = draft.rule.when && !draft.when;
  const conditional = draft.when !== null || formulaOnly;
  const first = form.fields[0];
  function choose(value: string) {
    const when = value === ALWAYS || !first ? null : group("and", [blankClause(first)]);
    onChange({ ...draft, when, rule: { ...draft.rule, when: null } });
  }
  return (
    <>
      <ChoicePart
        label="Always or under a condition"
        value={conditional ? UNDER_A_CONDITION : ALWAYS}
        groups={[
          {
            options: [
              { value: ALWAYS, label: "Always:" },
              { value: UNDER_A_CONDITION, label: "When" },
            ],
          },
        ]}
        onChoose={choose}
      />
      {draft.when && (
        <Condition
          form={form}
          whole={draft.when}
          label="condition"
          onChange={(when) => onChange({ ...draft, when, rule: { ...draft.rule, when: null } })}
        />
      )}
      {formulaOnly && (
        <label className="grow">
          <span className="sr-only">Condition as a formula</span>
          <input
            className="line-input w-full font-mono text-base"
            spellCheck={false}
            value={draft.rule.when ?? ""}
            onChange={(event) =>
              onChange({ ...draft, rule: { ...draft.rule, when: event.target.value } })
            }
          />
        </label>
      )}
      {conditional && <span className="-ml-1">,</span>}
    </>
  );
}
