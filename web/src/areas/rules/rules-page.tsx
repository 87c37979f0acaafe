// The register of a form's rules, with the three moments side by side.
import { Plus } from "lucide-react";
import { useEffect, useState } from "react";
import { useParams } from "react-router";
import { useMay } from "../../api/session";
import { Button } from "../../ui/button";
import { Facet } from "../../ui/facet";
import { SearchBox } from "../../ui/search-box";
import { type FormView, useForm } from "../frame/form-frame";
import { isWritten, MOMENT_WORDS, MOMENTS, type Moment, severityOf } from "./draft";
import { RuleEditor } from "./rule-editor";
import { RuleRow } from "./rule-row";
import { moveAmongMarks } from "./severity-mark";

const NEW = "new";

export function RulesPage() {
  const { formKey = "" } = useParams();
  const form = useForm().data;
  return form ? <Rules key={formKey} form={form} /> : null;
}

function Rules({ form }: { form: FormView }) {
  const mayEdit = useMay("edit_draft");
  const [open, setOpen] = useState<string | null>(null);
  const [search, setSearch] = useState("");
  const [only, setOnly] = useState<Moment | null>(null);
  useEffect(() => {
    function onKey(event: KeyboardEvent) {
      const target = event.target as HTMLElement;
      if (event.key !== "n" || event.ctrlKey || event.metaKey || !mayEdit) return;
      if (target.closest("input, textarea, select, [role=listbox], [role=dialog]")) return;
      event.preventDefault();
      setOpen(NEW);
    }
    window.addEventListener("keydown", onKey);
    return () => window.removeEventListener("keydown", onKey);
  }, [mayEdit]);

  const close = (key: string) => setOpen((now) => (now === key ? null : now));
  const wanted = search.trim().toLowerCase();
  const shown = form.rules.filter((view) => {
    const text = `${view.rule.name} ${view.sentence.map((s) => s.text).join("")}`.toLowerCase();
    return text.includes(wanted) && (only === null || severityOf(view.rule, only) === "block");
  });
  return (
    <main id="main" className="mx-auto w-full max-w-7xl px-6 py-5">
      <div className="mb-3 flex items-center gap-4">
        <div className="mr-auto">
          <SearchBox
            label="Search the rules"
            placeholder="Search names and sentences"
            value={search}
            onChange={setSearch}
          />
        </div>
        {mayEdit && (
          <Button look="solid" onClick={() => setOpen(NEW)}>
            <Plus size={18} aria-hidden="true" /> New rule
          </Button>
        )}
      </div>
      {open === NEW && <RuleEditor form={form} view={null} onClose={() => close(NEW)} />}
      <table className="w-full border-t border-b border-edge" onKeyDown={moveAmongMarks}>
        <thead className="sticky top-0 z-10 bg-ground text-left">
          <tr className="border-b border-hairline align-bottom *:px-2 *:py-2 *:font-normal">
            <th className="text-muted">Rule</th>
            {MOMENTS.map((moment) => (
              <th key={moment} className="w-32">
                <MomentHead
                  form={form}
                  moment={moment}
                  only={only === moment}
                  onToggle={() => setOnly(only === moment ? null : moment)}
                />
              </th>
            ))}
            <th className="w-16 text-muted">In use</th>
          </tr>
        </thead>
        <tbody>
          {shown.map((view, row) =>
            open === view.rule.key ? (
              <tr key={view.rule.key}>
                <td colSpan={5}>
                  <RuleEditor form={form} view={view} onClose={() => close(view.rule.key)} />
                </td>
              </tr>
            ) : (
              <RuleRow
                key={view.rule.key}
                form={form}
                view={view}
                row={row}
                onOpen={mayEdit && isWritten(view.rule) ? () => setOpen(view.rule.key) : null}
              />
            ),
          )}
        </tbody>
      </table>
      {shown.length === 0 && (
        <p className="py-6 text-muted">
          {form.rules.length === 0
            ? "No rule yet: a record of this form is accepted as it comes. Write the first rule."
            : "No rule fits. Clear the search, or show all rules again at the head of the column."}
        </p>
      )}
    </main>
  );
}

type HeadProps = { form: FormView; moment: Moment; only: boolean; onToggle: () => void };

function MomentHead({ form, moment, only, onToggle }: HeadProps) {
  const blocks = form.rules.filter(
    (v) => v.rule.on && severityOf(v.rule, moment) === "block",
  ).length;
  return (
    <>
      <span className="block px-2 font-serif text-lg">{MOMENT_WORDS[moment]}</span>
      {moment === "entry" ? (
        <span className="block px-2 text-sm text-muted">never stops</span>
      ) : (
        <button
          type="button"
          aria-pressed={only}
          onClick={onToggle}
          className="flex min-h-6 items-center whitespace-nowrap gap-1 rounded-xs px-2 text-sm text-muted hover:bg-tint aria-pressed:bg-tint aria-pressed:text-ink"
        >
          <Facet level="block" size={12} />
          {only ? "show all rules" : `${blocks} can stop it`}
        </button>
      )}
    </>
  );
}
