// The rules that touch a field, in words, and quick ways to say one more of it.
import { useRef, useState } from "react";
import { Button } from "../../ui/button";
import { focusSoon } from "../../ui/focus";
import { Sentence } from "../../ui/sentence";
import type { FormView } from "../frame/form";
import type { Kind } from "../rules/draft";
import { RuleEditor } from "../rules/rule-editor";
import type { FieldType, FieldView } from "./field-draft";

type Props = {
  form: FormView;
  view: FieldView;
  mayEdit: boolean;
  /** The kind of rule to begin with. */
  saying: string | null;
  onSaid: () => void;
};
type Open = { rule: string } | { kind: Kind } | null;

const ORDERED: FieldType[] = ["whole_number", "decimal", "date", "time", "date_time"];
export const QUICK: { kind: Kind; words: string; fits?: FieldType[] }[] = [
  { kind: "mandatory", words: "it is needed" },
  { kind: "range", words: "it lies between", fits: [...ORDERED, "text", "choices"] },
  { kind: "format", words: "it is written as", fits: ["text"] },
  { kind: "consent", words: "it must be agreed to", fits: ["yes_no"] },
  { kind: "entered_twice", words: "it is entered twice", fits: ["text"] },
  { kind: "start", words: "it starts as" },
  { kind: "open", words: "it is asked only when" },
  { kind: "derive", words: "it is computed" },
];

export function FieldRules({ form, view, mayEdit, saying, onSaid }: Props) {
  const { field, touched_by } = view;
  const begun = QUICK.find(({ kind }) => kind === saying);
  const [open, setOpen] = useState<Open>(begun ? { kind: begun.kind } : null);
  const rules = form.rules.filter(({ rule }) => touched_by.includes(rule.key));
  const box = useRef<HTMLDivElement>(null);
  /** The focus goes back to what opened the editor, by its words. */
  function shut(opener: string) {
    setOpen(null);
    onSaid();
    focusSoon(() => box.current?.querySelector<HTMLElement>(`[data-opens="${opener}"]`));
  }
  return (
    <div ref={box} className="mt-1 mb-1 ml-10 border-l border-edge pl-4">
      <ul aria-label={`Rules that touch ${field.label}`}>
        {rules.map((one) => {
          const { rule, sentence } = one;
          if (open && "rule" in open && open.rule === rule.key)
            return (
              <li key={rule.key}>
                <RuleEditor form={form} view={one} onClose={() => shut(rule.key)} />
              </li>
            );
          return (
            <li key={rule.key} className={rule.on ? "py-0.5" : "py-0.5 text-muted"}>
              {sentence.length > 0 ? (
                <Sentence segments={sentence} />
              ) : (
                `${one.called}: unfinished.`
              )}
              {!rule.on && " (switched off)"}
              {mayEdit && (
                <Button
                  look="quiet"
                  className="ml-1"
                  aria-label={`Rewrite “${one.called}”`}
                  data-opens={rule.key}
                  onClick={() => setOpen({ rule: rule.key })}
                >
                  rewrite
                </Button>
              )}
            </li>
          );
        })}
      </ul>
      {mayEdit && (
        <p className="flex flex-wrap items-baseline gap-x-1">
          <span className="text-muted">Say of {field.label}:</span>
          {QUICK.filter(({ fits }) => !fits || fits.includes(field.type)).map(({ kind, words }) => (
            <Button
              key={kind}
              look="quiet"
              className="px-2"
              data-opens={kind}
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
          onClose={() => shut(open.kind)}
        />
      )}
    </div>
  );
}
