// A formula being written: coloured, completed from the form's own names, and told what is wrong
// under the place where it stands. What a formula means is asked of the server.
import {
  autocompletion,
  type Completion,
  type CompletionContext,
  closeBrackets,
  completionKeymap,
} from "@codemirror/autocomplete";
import { defaultKeymap, history, historyKeymap } from "@codemirror/commands";
import { HighlightStyle, LRLanguage, syntaxHighlighting } from "@codemirror/language";
import { type Diagnostic, setDiagnostics } from "@codemirror/lint";
import { EditorState, type Text } from "@codemirror/state";
import { EditorView, keymap, tooltips } from "@codemirror/view";
import { tags } from "@lezer/highlight";
import { parser } from "lezer-feel";
import { useEffect, useMemo, useRef } from "react";
import type { Schemas } from "../../api/client";
import { words } from "../../words";
import type { FormView } from "../form/form";
import { useFunctions } from "./queries";

const t = words("rules");

type Problem = Schemas["ProblemItem"];
type Props = {
  form: FormView;
  label: string;
  value: string;
  problems: Problem[];
  /** Whether it takes the focus when it appears. */
  takesFocus?: boolean;
  onChange: (value: string) => void;
};

const FEEL = LRLanguage.define({ name: "feel", parser: parser.configure({ top: "Expression" }) });
const COLOURS = HighlightStyle.define([
  { tag: tags.string, color: "var(--moss)" },
  { tag: tags.number, color: "var(--slate)" },
  { tag: [tags.keyword, tags.controlKeyword, tags.operatorKeyword], color: "var(--thistle)" },
  { tag: tags.bool, color: "var(--ochre)" },
]);
const NAMES: Completion[] = [
  { label: "today", detail: t("the_day_of_the_check") },
  { label: "now", detail: t("the_moment_of_the_check") },
  { label: "event", detail: t("create_or_update") },
  { label: "role", detail: t("who_stores_the_record") },
  { label: "entry_point", detail: t("where_it_comes_from") },
].map((one) => ({ ...one, type: "variable" }));

function completions(form: FormView, functions: Schemas["FunctionView"][]): Completion[] {
  const fields = form.fields.flatMap(({ field }) => [
    { label: field.key, detail: field.label, type: "variable", boost: 2 },
    {
      label: `stored.${field.key}`,
      detail: t("label_as_it_was_before", { label: field.label }),
      type: "property",
    },
    {
      label: `changed.${field.key}`,
      detail: t("whether_label_changed", { label: field.label }),
      type: "property",
    },
  ]);
  const conditions = form.setup.conditions.map(({ key, name }) => ({
    label: key,
    detail: name,
    type: "constant",
  }));
  const calls = functions.map((one) => ({
    label: one.name,
    apply: `${one.name}(`,
    detail: one.says,
    info: t("join_gives_result_says_true_example", {
      join: one.ways.join("\n"),
      result: one.result,
      says: one.says,
      example: one.example,
    }),
    type: "function",
  }));
  return [...fields, ...conditions, ...NAMES, ...calls];
}

function source(options: Completion[]) {
  return (context: CompletionContext) => {
    const word = context.matchBefore(/[A-Za-z_][\w.]*$/);
    return word || context.explicit
      ? { from: word?.from ?? context.pos, options, validFor: /^[\w. ]*$/ }
      : null;
  };
}

/** Problems as marks under their places: the word there, or the end where none is told. */
function marks(problems: Problem[], doc: Text): Diagnostic[] {
  return problems.map((problem) => {
    const line = problem.line && problem.line <= doc.lines ? doc.line(problem.line) : null;
    const from = line ? Math.min(line.from + (problem.column ?? 1) - 1, line.to) : doc.length;
    const rest = doc.sliceString(from, line?.to ?? doc.length);
    const length = Math.max(1, /^[\w.]+/.exec(rest)?.[0].length ?? 1);
    const begin = from === doc.length ? Math.max(0, from - 1) : from;
    return {
      from: begin,
      to: Math.min(from + length, doc.length),
      severity: "error",
      message: `${problem.message} ${problem.remedy}`,
    };
  });
}

export default function FormulaBox(props: Props) {
  const { form, label, value, problems, onChange } = props;
  const focuses = useRef(props.takesFocus ?? false);
  const host = useRef<HTMLDivElement>(null);
  const view = useRef<EditorView | null>(null);
  const change = useRef(onChange);
  change.current = onChange;
  const start = useRef(value);
  const functions = useFunctions().data;
  const options = useMemo(() => completions(form, functions ?? []), [form, functions]);
  const offered = useRef(options);
  offered.current = options;
  useEffect(() => {
    if (!host.current) return;
    const editor = new EditorView({
      parent: host.current,
      state: EditorState.create({
        doc: start.current,
        extensions: [
          history(),
          closeBrackets(),
          FEEL,
          syntaxHighlighting(COLOURS),
          autocompletion({
            override: [(context) => source(offered.current)(context)],
            icons: false,
          }),
          tooltips({ position: "fixed" }),
          keymap.of([
            ...completionKeymap,
            ...defaultKeymap.filter((k) => k.key !== "Mod-Enter"),
            ...historyKeymap,
          ]),
          EditorView.lineWrapping,
          EditorView.contentAttributes.of({ "aria-label": label, spellcheck: "false" }),
          EditorView.updateListener.of((update) => {
            if (update.docChanged) change.current(update.state.doc.toString());
          }),
        ],
      }),
    });
    view.current = editor;
    if (focuses.current) editor.focus();
    return () => editor.destroy();
  }, [label]);
  useEffect(() => {
    const editor = view.current;
    if (editor && editor.state.doc.toString() !== value)
      editor.dispatch({ changes: { from: 0, to: editor.state.doc.length, insert: value } });
  }, [value]);
  useEffect(() => {
    const editor = view.current;
    if (editor) editor.dispatch(setDiagnostics(editor.state, marks(problems, editor.state.doc)));
  }, [problems]);
  return <div ref={host} className="formula-box" />;
}
