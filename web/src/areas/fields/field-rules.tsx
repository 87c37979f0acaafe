// The rules that touch a field, in words, and quick ways to say one more of it.
import { useState } from "react";
import { Button } from "../../ui/button";
import { Sentence } from "../../ui/sentence";
import { words } from "../../words";
import type { FormView } from "../form/form";
import type { Kind } from "../form/rule";
import { ALL_KINDS } from "../rules/kinds";
import { RuleEditor } from "../rules/rule-editor";
import type { FieldType, FieldView } from "./field-draft";

const t = words("fields");

type Props = {
  form: FormView;
  view: FieldView;
  mayEdit: boolean;
  /** The kind of rule to begin with. */
  saying: string | null;
  onSaid: () => void;
};
type Open = { rule: string } | { kind: Kind } | null;

/** What can be said at once of a field of this type. */
export function sayable(type: FieldType) {
  return ALL_KINDS.flatMap(({ kind, quick }) =>
    quick && (!quick.fits || quick.fits.includes(type)) ? [{ kind, ...quick }] : [],
  );
}

export function FieldRules({ form, view, mayEdit, saying, onSaid }: Props) {
  const { field, touched_by } = view;
  const begun = ALL_KINDS.find(({ kind }) => kind === saying);
  const [open, setOpen] = useState<Open>(begun ? { kind: begun.kind } : null);
  const rules = form.rules.filter(({ rule }) => touched_by.includes(rule.key));
  const opener = (of: string) => `${field.key}:${of}`;
  function shut() {
    setOpen(null);
    onSaid();
  }
  return (
    <div className="mt-1 mb-1 ml-10 border-l border-edge pl-4">
      <ul aria-label={t("rules_that_touch_label", { label: field.label })}>
        {rules.map((one) => {
          const { rule, sentence } = one;
          if (open && "rule" in open && open.rule === rule.key)
            return (
              <li key={rule.key}>
                <RuleEditor form={form} view={one} openedBy={opener(rule.key)} onClose={shut} />
              </li>
            );
          return (
            <li key={rule.key} className={rule.enabled ? "py-0.5" : "py-0.5 text-muted"}>
              {sentence.length > 0 ? (
                <Sentence segments={sentence} />
              ) : (
                t("rule_is_unfinished", { called: one.called })
              )}
              {!rule.enabled && <> {t("switched_off")}</>}
              {mayEdit && (
                <Button
                  look="quiet"
                  className="ml-1"
                  aria-label={t("rewrite_called", { called: one.called })}
                  data-opens={opener(rule.key)}
                  onClick={() => setOpen({ rule: rule.key })}
                >
                  {t("rewrite")}
                </Button>
              )}
            </li>
          );
        })}
      </ul>
      {mayEdit && (
        <p className="flex flex-wrap items-baseline gap-x-1">
          <span className="text-muted">{t("say_of_label", { label: field.label })}</span>
          {sayable(field.type).map(({ kind, words }) => (
            <Button
              key={kind}
              look="quiet"
              className="px-2"
              data-opens={opener(kind)}
              onClick={() => setOpen({ kind })}
            >
              {words}
            </Button>
          ))}
        </p>
      )}
      {open && "kind" in open && (
        <RuleEditor
          key={open.kind}
          form={form}
          view={null}
          begun={{ target: field.key, kind: open.kind }}
          openedBy={opener(open.kind)}
          onClose={shut}
        />
      )}
    </div>
  );
}
