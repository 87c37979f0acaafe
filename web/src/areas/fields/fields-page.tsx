// The fields of a form, in their order and sections, each with the rules that touch it.
import { GripVertical, Plus } from "lucide-react";
import { type DragEvent, type KeyboardEvent, useEffect, useRef, useState } from "react";
import { useParams } from "react-router";
import { useMay } from "../../api/session";
import { Button } from "../../ui/button";
import { Facet } from "../../ui/facet";
import { SearchBox } from "../../ui/search-box";
import { Sentence } from "../../ui/sentence";
import { type FormView, useForm } from "../frame/form-frame";
import { type FieldView, holdsWords, moved } from "./field-draft";
import { FieldEditor } from "./field-editor";
import { useOrderFields } from "./queries";

const NEW = "new";

export function FieldsPage() {
  const { formKey = "" } = useParams();
  const form = useForm().data;
  return form ? <Fields key={formKey} form={form} /> : null;
}

function Fields({ form }: { form: FormView }) {
  const mayEdit = useMay("edit_draft");
  const [open, setOpen] = useState<string | null>(null);
  const [search, setSearch] = useState("");
  const [onlyMandatory, setOnlyMandatory] = useState(false);
  const order = useOrderFields(form.key);
  const moving = useRef<string | null>(null);
  useEffect(() => {
    // The button that moved keeps the focus, wherever its row stands now.
    if (moving.current) document.getElementById(`move-${moving.current}`)?.focus();
    moving.current = null;
  });
  const close = (key: string) => setOpen((now) => (now === key ? null : now));
  const keys = form.fields.map((view) => view.field.key);
  const wanted = search.trim().toLowerCase();
  const shown = form.fields.filter(
    ({ field, mark }) =>
      `${field.label} ${field.key} ${field.hint}`.toLowerCase().includes(wanted) &&
      (!onlyMandatory || mark),
  );
  const sections = [
    ...form.sheet.sections,
    { key: "", label: form.sheet.sections.length > 0 ? "Without a section" : "Fields" },
  ];
  const known = new Set(form.sheet.sections.map((section) => section.key));
  function move(key: string, by: -1 | 1) {
    moving.current = key;
    order.mutate(moved(keys, key, by));
  }
  function drop(key: string, before: string) {
    const next = keys.filter((one) => one !== key);
    next.splice(next.indexOf(before), 0, key);
    order.mutate(next);
  }
  return (
    <main id="main" className="mx-auto w-full max-w-7xl px-6 py-5">
      <div className="mb-3 flex items-center gap-5">
        <SearchBox
          label="Search the fields"
          placeholder="Search labels, keys and hints"
          value={search}
          onChange={setSearch}
        />
        <label className="mr-auto flex items-center gap-1.5 text-muted">
          <input
            type="checkbox"
            className="size-4 accent-thistle"
            checked={onlyMandatory}
            onChange={(event) => setOnlyMandatory(event.target.checked)}
          />
          mandatory ones only
        </label>
        {mayEdit && (
          <Button look="solid" onClick={() => setOpen(NEW)}>
            <Plus size={18} aria-hidden="true" /> New field
          </Button>
        )}
      </div>
      {open === NEW && <FieldEditor form={form} view={null} onClose={() => close(NEW)} />}
      {sections.map((section) => {
        const own = shown.filter(({ field }) =>
          section.key ? field.section === section.key : !field.section || !known.has(field.section),
        );
        if (own.length === 0) return null;
        return (
          <section key={section.key} aria-label={section.label} className="mt-4">
            <h2 className="border-b border-edge pb-1 text-xl">{section.label}</h2>
            <ul>
              {own.map((view) =>
                open === view.field.key ? (
                  <li key={view.field.key}>
                    <FieldEditor form={form} view={view} onClose={() => close(view.field.key)} />
                  </li>
                ) : (
                  <FieldRow
                    key={view.field.key}
                    form={form}
                    view={view}
                    onOpen={mayEdit ? () => setOpen(view.field.key) : null}
                    onMove={(by) => move(view.field.key, by)}
                    onDrop={(key) => drop(key, view.field.key)}
                  />
                ),
              )}
            </ul>
          </section>
        );
      })}
      {shown.length === 0 && open !== NEW && (
        <p className="border-t border-hairline py-6 text-muted">
          {form.fields.length === 0
            ? "No field yet. Add the first: what is the record known by?"
            : "No field fits. Clear the search, or show all fields."}
        </p>
      )}
    </main>
  );
}

type RowProps = {
  form: FormView;
  view: FieldView;
  onOpen: (() => void) | null;
  onMove: (by: -1 | 1) => void;
  onDrop: (key: string) => void;
};

const FIELD_DRAGGED = "text/x-field";

function FieldRow({ form, view, onOpen, onMove, onDrop }: RowProps) {
  const { field, mark, touched_by } = view;
  const [unfolded, setUnfolded] = useState(false);
  function onKeyDown(event: KeyboardEvent) {
    const by = { ArrowUp: -1, ArrowDown: 1 }[event.key] as -1 | 1 | undefined;
    if (!by) return;
    event.preventDefault();
    onMove(by);
  }
  const rules = form.rules.filter(({ rule }) => touched_by.includes(rule.key));
  return (
    <li
      className="border-b border-hairline py-2"
      onDragOver={(event) => event.preventDefault()}
      onDrop={(event: DragEvent) => {
        event.preventDefault();
        const key = event.dataTransfer.getData(FIELD_DRAGGED);
        if (key && key !== field.key) onDrop(key);
      }}
    >
      <div className="grid grid-cols-[1.75rem_minmax(0,17rem)_minmax(0,1fr)_auto_auto] items-baseline gap-x-3">
        {onOpen ? (
          <button
            type="button"
            id={`move-${field.key}`}
            draggable
            onDragStart={(event) => event.dataTransfer.setData(FIELD_DRAGGED, field.key)}
            onKeyDown={onKeyDown}
            aria-label={`Move ${field.label}: arrow up or down`}
            className="flex size-7 cursor-grab items-center justify-center self-center rounded-xs text-muted hover:bg-tint"
          >
            <GripVertical size={16} aria-hidden="true" />
          </button>
        ) : (
          <span />
        )}
        <p>
          <span className="text-[1.05rem]">{field.label}</span>{" "}
          <span className="font-mono text-sm text-muted">{field.key}</span>
          {mark && (
            <span className="flex items-center gap-1 text-sm text-muted">
              <Facet level={mark === "demanded" ? "block" : "note"} size={11} /> {mark}
            </span>
          )}
        </p>
        <p>
          {holdsWords(field)}
          {field.helper && <span className="text-plum"> — a helper, never shown</span>}
          <span className="block text-sm text-muted">{field.hint}</span>
        </p>
        {rules.length > 0 ? (
          <button
            type="button"
            aria-expanded={unfolded}
            onClick={() => setUnfolded(!unfolded)}
            className="min-h-7 rounded-xs px-2 text-thistle hover:bg-tint"
          >
            {rules.length} {rules.length === 1 ? "rule" : "rules"}
            <span className="sr-only">
              {" "}
              {rules.length === 1 ? "touches" : "touch"} {field.label}
            </span>
          </button>
        ) : (
          <span className="px-2 text-muted">no rule</span>
        )}
        {onOpen ? (
          <button
            type="button"
            onClick={onOpen}
            aria-label={`Change ${field.label}`}
            className="min-h-7 rounded-xs px-2 text-thistle hover:bg-tint"
          >
            change
          </button>
        ) : (
          <span />
        )}
      </div>
      {unfolded && (
        <ul className="mt-1 mb-1 ml-10 border-l border-edge pl-4">
          {rules.map(({ rule, sentence }) => (
            <li key={rule.key} className={rule.on ? "py-0.5" : "py-0.5 text-muted"}>
              {sentence.length > 0 ? <Sentence segments={sentence} /> : `${rule.name}: unfinished.`}
              {!rule.on && " (switched off)"}
            </li>
          ))}
        </ul>
      )}
    </li>
  );
}
