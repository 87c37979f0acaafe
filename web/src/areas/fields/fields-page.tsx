// The fields of a form, in their order and sections, each with the rules that touch it.
import { Plus } from "lucide-react";
import { useEffect, useRef, useState } from "react";
import { useParams } from "react-router";
import { useMay } from "../../api/session";
import { useAddress } from "../../ui/address";
import { Button } from "../../ui/button";
import { focusSoon } from "../../ui/focus";
import { useScrollKept } from "../../ui/kept";
import { useKey } from "../../ui/keys";
import { Page } from "../../ui/page";
import { SearchBox } from "../../ui/search-box";
import { words } from "../../words";
import { type FormView, useForm } from "../form/form";
import { RefusedFields, useAdding } from "./adding";
import { movedWithin } from "./field-draft";
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
  const setOpen = (field: string) => ask({ field });
  /** How many new fields were begun: each begins anew. */
  const [round, setRound] = useState(0);
  /** The one that is closed already, before the address says so: what is typed next is not its. */
  const [closed, setClosed] = useState<number | null>(null);
  const adds = open === NEW && closed !== round;
  const writing = useRef(adds);
  writing.current = adds;
  useEffect(() => {
    if (open !== NEW) setClosed(null);
  }, [open]);
  function beginNew() {
    setRound((before) => before + 1);
    setOpen(NEW);
  }
  const adding = useAdding(form, open === NEW && !adds ? null : open, beginNew);
  useScrollKept(`fields-place:${form.key}`);
  const order = useOrderFields(form.key);
  const moving = useRef<string | null>(null);
  useEffect(() => {
    // The button that moved keeps the focus, wherever its row stands now.
    if (moving.current) document.getElementById(`move-${moving.current}`)?.focus();
    moving.current = null;
  });
  useKey("n", beginNew, mayEdit);
  const begin = useRef<HTMLButtonElement>(null);
  function close(key: string) {
    if (key === NEW) setClosed(round);
    if (open === key) ask({ field: "" });
    focusSoon(() =>
      // Whoever has begun the next one meanwhile stays there.
      writing.current
        ? null
        : (document.querySelector<HTMLElement>(`[data-change="${key}"]`) ?? begin.current),
    );
  }
  const keys = form.fields.map((view) => view.field.key);
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
  // The order as it was meant last, which the next key goes on from before anything is drawn.
  const meant = useRef(keys);
  if (!order.isPending) meant.current = keys;
  function put(next: string[]) {
    meant.current = next;
    order.mutate(next);
  }
  function move(key: string, by: -1 | 1) {
    moving.current = key;
    const sectionOf = (one: string) => {
      const section = form.fields.find(({ field }) => field.key === one)?.field.section ?? "";
      return known.has(section) ? section : "";
    };
    put(movedWithin(meant.current, key, by, sectionOf));
  }
  function drop(key: string, before: string) {
    const next = meant.current.filter((one) => one !== key);
    next.splice(next.indexOf(before), 0, key);
    put(next);
  }
  return (
    <Page title={t("fields")} of={form.name} className="mx-auto w-full max-w-7xl px-6 py-5">
      <div className="mb-3 flex items-center gap-5">
        <SearchBox
          label={t("search_the_fields")}
          placeholder={t("search_labels_keys_and_hints")}
          value={search}
          onChange={(next) => ask({ search: next })}
        />
        <label className="mr-auto flex items-center gap-1.5 text-muted">
          <input
            type="checkbox"
            className="size-4 accent-thistle"
            checked={onlyNeeded}
            onChange={(event) => ask({ show: event.target.checked ? "needed" : "" })}
          />
          {t("required_ones_only")}
        </label>
        {mayEdit && (
          <Button ref={begin} look="solid" onClick={beginNew}>
            <Plus size={18} aria-hidden="true" /> {t("new_field")}
          </Button>
        )}
      </div>
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
      {sections.map((section) => {
        const own = shown.filter(({ field }) =>
          section.key ? field.section === section.key : !field.section || !known.has(field.section),
        );
        if (own.length === 0) return null;
        return (
          <section key={section.key} aria-label={section.label} className="mt-4">
            <h3 className="border-b border-edge pb-1 text-xl">{section.label}</h3>
            <ul>
              {own.map((view) =>
                open === view.field.key && mayEdit ? (
                  <li key={view.field.key}>
                    <FieldEditor form={form} view={view} onClose={() => close(view.field.key)} />
                  </li>
                ) : (
                  <FieldRow
                    key={view.field.key}
                    form={form}
                    view={view}
                    mayEdit={mayEdit}
                    saying={asked.of === view.field.key ? asked.say : null}
                    onSaid={() => ask({ of: "", say: "" })}
                    onOpen={() => setOpen(view.field.key)}
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
            ? t("no_fields_yet_add_the_first_what")
            : t("no_matching_fields_clear_the_search_or")}
        </p>
      )}
    </Page>
  );
}
