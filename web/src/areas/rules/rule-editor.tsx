// A rule as a sentence whose parts open where they stand, with what happens when, the message,
// and a try beside it.
import { CopyPlus, Forward } from "lucide-react";
import { type KeyboardEvent, useEffect, useRef, useState } from "react";
import { Refused } from "../../api/client";
import { Button } from "../../ui/button";
import { EditorFoot } from "../../ui/editor-foot";
import { firstUnsaid, focusAfterList } from "../../ui/focus";
import { Line } from "../../ui/inputs";
import { isStoreKey } from "../../ui/keys";
import { words } from "../../words";
import { isCheck, type Rule } from "../form/rule";
import { CopyToForm } from "./copy-to-form";
import { Counting } from "./counting";
import { FoundOfRule } from "./found";
import { StoredRecords } from "./impact";
import { Obligation } from "./obligation";
import { RuleCondition } from "./rule-condition";
import { Newer, Reads, useTold } from "./rule-reads";
import { EffectWords, Severities } from "./rule-severities";
import { useRuleWriting, type Writing } from "./rule-writing";
import { TryBeside } from "./try-beside";

const t = words("rules");

type Props = Writing & {
  /** The names of what opened it, and gets the focus back. */
  openedBy: string;
};

export function RuleEditor({ form, view, onClose, onAdded, begun, openedBy }: Props) {
  const writing = useRuleWriting({ form, view, onClose, onAdded, begun });
  const { draft, rule, store, reading, tried, change, set, save } = writing;
  const replaces = view?.rule.key ?? null;
  const [copying, setCopying] = useState(false);
  const section = useRef<HTMLElement>(null);
  const told = useTold(reading.data, section);
  const sentence = useRef<HTMLDivElement>(null);
  const opened = useRef(rule.kind);
  useEffect(() => {
    // Of another kind other things are to be said.
    if (opened.current !== rule.kind) focusAfterList(() => firstUnsaid(sentence.current));
    opened.current = rule.kind;
  }, [rule.kind]);
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
      data-focus={view ? "first" : "unsaid"}
      data-opened-by={openedBy}
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
        data-sentence=""
        className="my-4 flex flex-wrap items-baseline gap-x-1 gap-y-1.5 font-serif text-[1.3rem] leading-9"
      >
        <RuleCondition {...parts} />
        <Obligation {...parts} />
        <span className="-ml-1">.</span>
      </div>
      <Reads reading={told} tried={tried} />
      <div className="grid grid-cols-1 gap-x-6 gap-y-4 lg:grid-cols-[minmax(0,1fr)_minmax(0,25rem)]">
        <div>
          {isCheck(rule) ? (
            <Severities rule={rule} reading={reading.data} onChange={set} />
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
        dirty={writing.dirty}
        storing={store.error}
        trouble={writing.trouble}
        newer={newer && <Newer form={form} rule={newer as unknown as Rule} />}
        onStore={() => save()}
        onClose={writing.close}
        onKeepMine={writing.keepMine}
        onTakeOut={writing.remove}
        asideStore={
          tried &&
          problems.length > 0 && (
            <Button busy={store.isPending} onClick={() => save(true)}>
              {t("keep_it_unfinished")}
            </Button>
          )
        }
      >
        <Button look="quiet" busy={writing.dirty || store.isPending} onClick={writing.copy}>
          <CopyPlus size={16} aria-hidden="true" /> {t("copy_it")}
        </Button>
        <Button look="quiet" busy={writing.dirty} onClick={() => setCopying(true)}>
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
