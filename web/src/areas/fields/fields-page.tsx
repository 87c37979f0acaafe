// The fields of a form, in their order and sections, each with the rules that touch it.
import { Plus } from "lucide-react";
import { useEffect, useRef, useState } from "react";
import { useParams } from "react-router";
import { useMay } from "../../api/session";
import { useAddress } from "../../ui/address";
import { Button } from "../../ui/button";
import { useScrollKept } from "../../ui/kept";
import { useKey } from "../../ui/keys";
import { Page } from "../../ui/page";
import { SearchBox } from "../../ui/search-box";
import { words } from "../../words";
import { type FormView, useForm } from "../form/form";
import { useReordering } from "../form/order";
import { RefusedFields, useAdding } from "./adding";
import { type FieldView, movedWithin } from "./field-draft";
import { FieldEditor } from "./field-editor";
import { FieldRow } from "./field-row";
import { useOrderFields } from "./queries";

const t = words("fields");

const NEW = "new";
/** As the address says it: what is looked for and shown, which field is open, and of which field
 * something more is said, by which kind of rule.
 */
const USUAL = { search: "", show: "", field: "", of: "", say: "" };
export function FieldsPage() {
  const { formKey = "" } = useParams();
  const form = useForm().data;
  return form ? <Fields key={formKey} form={form} /> : null;
}

function Fields({ form }: { form: FormView }) {
  const mayEdit = useMay("edit_draft");
  const [asked, ask] = useAddress(USUAL);
  const { search } = asked;
  const onlyNeeded = asked.show === "needed";
  const open = asked.field || null;
  /** How many new fields were begun: each begins anew. */
  const [round, setRound] = useState(0);
  /** The one that is closed already, before the address says so: what is typed next is not its. */
  const [closed, setClosed] = useState<number | null>(null);
  const adds = open === NEW && closed !== round;
  useEffect(() => {
    if (open !== NEW) setClosed(null);
  }, [open]);
  function beginNew() {
    setRound((before) => before + 1);
    ask({ field: NEW });
  }
  const adding = useAdding(form, open === NEW && !adds ? null : open, beginNew);
  useScrollKept(`fields-place:${form.key}`);
  useKey("n", beginNew, mayEdit);
  const latest = useRef(open);
  latest.current = open;
  function close(key: string) {
    if (key === NEW) setClosed(round);
    // Whatever was opened meanwhile stays open.
    if (latest.current === key) ask({ field: "" });
  }
  const wanted = search.trim().toLowerCase();
  const shown = form.fields.filter(
    ({ field, mark }) =>
      `${field.label} ${field.key} ${field.hint}`.toLowerCase().includes(wanted) &&
      (!onlyNeeded || mark || field.key === open),
  );
  const sections = [
    ...form.sheet.sections,
    { key: "", label: form.sheet.sections.length > 0 ? t("without_a_section") : "Fields" },
  ];
  const known = new Set(form.sheet.sections.map((section) => section.key));
  const order = useOrderFields(form.key);
  const ordering = useReordering(
    form.fields.map((view) => view.field.key),
    order,
  );
  function move(key: string, by: -1 | 1) {
    const sectionOf = (one: string) => {
      const section = form.fields.find(({ field }) => field.key === one)?.field.section ?? "";
      return known.has(section) ? section : "";
    };
    ordering.put((meant) => movedWithin(meant, key, by, sectionOf));
  }
  return (
    <Page title={t("fields")} of={form.name} className="mx-auto w-full max-w-7xl px-6 py-5">
      <Tools asked={asked} ask={ask} onBegin={mayEdit ? beginNew : null} />
      <RefusedFields refused={adding.refused} busy={adds} onRetry={adding.retry} />
      {adds && mayEdit && (
        <FieldEditor
          key={round}
          form={form}
          view={null}
          onClose={() => {
            adding.settle();
            close(NEW);
          }}
          refused={adding.trouble}
          onAdd={(added, next) => {
            adding.add(added);
            if (next) setRound((before) => before + 1);
            else close(NEW);
          }}
          onSay={(of, say) => ask({ field: "", of, say })}
        />
      )}
      {sections.map((section) => (
        <Section
          key={section.key}
          form={form}
          label={section.label}
          views={shown.filter(({ field }) =>
            section.key
              ? field.section === section.key
              : !field.section || !known.has(field.section),
          )}
          open={mayEdit ? open : null}
          mayEdit={mayEdit}
          sayingOf={(key) => (asked.of === key ? asked.say : null)}
          ask={ask}
          onClose={close}
          onMove={move}
          onDrop={(key, before) => ordering.drop(key, before)}
        />
      ))}
      {shown.length === 0 && open !== NEW && (
        <p className="border-t border-hairline py-6 text-muted">
          {form.fields.length === 0
            ? t("no_fields_yet_add_the_first_what")
            : t("no_matching_fields_clear_the_search_or")}
        </p>
      )}
    </Page>
  );
}

type Asked = typeof USUAL;
type ToolsProps = {
  asked: Asked;
  ask: (part: Partial<Asked>) => void;
  onBegin: (() => void) | null;
};

/** What is looked for and shown, and what begins a new field. */
function Tools({ asked, ask, onBegin }: ToolsProps) {
  return (
    <div className="mb-3 flex items-center gap-5">
      <SearchBox
        label={t("search_the_fields")}
        placeholder={t("search_labels_keys_and_hints")}
        value={asked.search}
        onChange={(next) => ask({ search: next })}
      />
      <label className="mr-auto flex items-center gap-1.5 text-muted">
        <input
          type="checkbox"
          className="size-4 accent-thistle"
          checked={asked.show === "needed"}
          onChange={(event) => ask({ show: event.target.checked ? "needed" : "" })}
        />
        {t("required_ones_only")}
      </label>
      {onBegin && (
        <Button data-opens="new-field" look="solid" onClick={onBegin}>
          <Plus size={18} aria-hidden="true" /> {t("new_field")}
        </Button>
      )}
    </div>
  );
}

type SectionProps = {
  form: FormView;
  label: string;
  views: FieldView[];
  open: string | null;
  mayEdit: boolean;
  /** The kind of rule by which something more is said of a field. */
  sayingOf: (field: string) => string | null;
  ask: (part: Partial<Asked>) => void;
  onClose: (key: string) => void;
  onMove: (key: string, by: -1 | 1) => void;
  onDrop: (key: string, before: string) => void;
};

function Section({ form, label, views, open, mayEdit, sayingOf, ask, ...acts }: SectionProps) {
  if (views.length === 0) return null;
  return (
    <section aria-label={label} className="mt-4">
      <h3 className="border-b border-edge pb-1 text-xl">{label}</h3>
      <ul>
        {views.map((view) => {
          const { key } = view.field;
          if (open === key)
            return (
              <li key={key}>
                <FieldEditor form={form} view={view} onClose={() => acts.onClose(key)} />
              </li>
            );
          return (
            <FieldRow
              key={key}
              form={form}
              view={view}
              mayEdit={mayEdit}
              saying={sayingOf(key)}
              onSaid={() => ask({ of: "", say: "" })}
              onOpen={() => ask({ field: key })}
              onMove={(by) => acts.onMove(key, by)}
              onDrop={(dragged) => acts.onDrop(dragged, key)}
            />
          );
        })}
      </ul>
    </section>
  );
}
