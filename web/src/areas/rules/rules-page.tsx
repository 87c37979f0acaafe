// The register of a form's rules, with the three moments side by side.
import { useWindowVirtualizer } from "@tanstack/react-virtual";
import { Plus } from "lucide-react";
import { useCallback, useEffect, useLayoutEffect, useMemo, useRef, useState } from "react";
import { useParams } from "react-router";
import { useMay } from "../../api/session";
import { useAddress } from "../../ui/address";
import { Button } from "../../ui/button";
import { ChoicePart } from "../../ui/choice-part";
import { Facet } from "../../ui/facet";
import { focusSoon } from "../../ui/focus";
import { useScrollKept } from "../../ui/kept";
import { useKey } from "../../ui/keys";
import { Page } from "../../ui/page";
import { SearchBox } from "../../ui/search-box";
import { words } from "../../words";
import { findingsByRule, useFindings } from "../findings/queries";
import { type FormView, useForm } from "../form/form";
import { moved } from "../form/order";
import { MOMENT_WORDS, MOMENTS, type Moment, type RuleView } from "../form/rule";
import { useTieToPlan } from "../plan/queries";
import { columnOf, moveAmongCells, REWRITE } from "./cells";
import { ChosenRules } from "./chosen-rules";
import { useAdjustRules, useOrderRules, useRemoveRules } from "./queries";
import { FILTERS, type Filter, GROUPINGS, type Grouping, linesOf, shownOf } from "./register";
import { RuleEditor } from "./rule-editor";
import { COLUMNS, RULE_DRAGGED, RuleRow } from "./rule-row";
import { ToolSheets } from "./tool-sheets";

const t = words("rules");

const NEW = "new";
const ROW_HEIGHT = 68;
const ROWS_BEYOND = 12;
const LONGEST_NAME = 200; // characters
/** As the address says it: what is looked for and shown, in which groups, and what is open. A new
 * rule can be about a field, or come from a line of the plan.
 */
const USUAL = { search: "", show: "all", group: "order", rule: "", about: "", line: "" };
const EVERYTHING = { search: "", show: "all", group: "order" };

export function RulesPage() {
  const { formKey = "" } = useParams();
  const form = useForm().data;
  return form ? <Rules key={formKey} form={form} /> : null;
}

function Rules({ form }: { form: FormView }) {
  const mayEdit = useMay("edit_draft");
  const [asked, ask] = useAddress(USUAL);
  useScrollKept(`register-place:${form.key}`);
  const [added, setAdded] = useState<string | null>(null);
  const [chosen, setChosen] = useState<ReadonlySet<string>>(new Set());
  const adjust = useAdjustRules(form.key);
  const order = useOrderRules(form.key);
  const remove = useRemoveRules(form.key, () => setChosen(new Set()));
  const tie = useTieToPlan(form);
  const begin = useRef<HTMLButtonElement>(null);
  const { search } = asked;
  const filter = FILTERS.find(({ value }) => value === asked.show)?.value ?? "all";
  const grouping = GROUPINGS.find(({ value }) => value === asked.group)?.value ?? "order";
  const open = asked.rule || null;
  // What was opened is shown, whatever else is.
  const shown = useMemo(() => {
    const fitting = new Set(shownOf(form, search, filter));
    return form.rules.filter((view) => fitting.has(view) || view.rule.key === open);
  }, [form, search, filter, open]);
  const openNew = () => ask({ rule: NEW, about: "", line: "" });
  useKey("n", openNew, mayEdit);
  const line = form.plan.find(({ key }) => key === asked.line);
  const begun = {
    ...(asked.about && { target: asked.about }),
    ...(line && { name: line.text.slice(0, LONGEST_NAME) }),
  };
  function reveal(key: string, rewrite: boolean) {
    if (line && !rewrite) tie.mutate({ line, rule: key });
    ask({ ...EVERYTHING, rule: rewrite ? key : "", about: "", line: "" });
    if (!rewrite) setAdded(key);
  }
  const latest = useRef(open);
  latest.current = open;
  const close = useCallback(
    (key: string) => {
      if (latest.current === key) ask({ rule: "", about: "", line: "" });
      focusSoon(
        () => document.querySelector<HTMLElement>(`[data-rewrite="${key}"]`) ?? begin.current,
      );
    },
    [ask],
  );
  const openRule = useCallback((key: string) => ask({ rule: key, about: "", line: "" }), [ask]);
  const choose = useCallback((key: string, take: boolean) => {
    setChosen((before) => {
      const next = new Set(before);
      if (take) next.add(key);
      else next.delete(key);
      return next;
    });
  }, []);
  const picked = form.rules.filter((view) => chosen.has(view.rule.key));
  // The order as it was meant last, which the next key goes on from before anything is drawn.
  const meant = useRef<string[]>([]);
  if (!order.isPending) meant.current = form.rules.map((view) => view.rule.key);
  const mayOrder = grouping === "order" && shown.length === form.rules.length;
  const put = order.mutate;
  const move = useCallback(
    (key: string, by: -1 | 1) => {
      meant.current = moved(meant.current, key, by);
      put(meant.current);
      focusSoon(() => document.getElementById(`move-rule-${key}`));
    },
    [put],
  );
  function drop(key: string, before: string) {
    const next = meant.current.filter((one) => one !== key);
    next.splice(next.indexOf(before), 0, key);
    meant.current = next;
    put(next);
  }
  return (
    <Page title={t("rules")} of={form.name} className="mx-auto w-full max-w-7xl px-6 py-5">
      <div className="mb-3 flex flex-wrap items-center gap-x-4 gap-y-2">
        <SearchBox
          label={t("search_the_rules")}
          placeholder={t("search_names_sentences_messages")}
          value={search}
          onChange={(next) => ask({ search: next })}
        />
        <span className="mr-auto">
          {t("showing")}{" "}
          <ChoicePart
            label={t("which_rules_are_shown")}
            value={filter}
            groups={[{ options: FILTERS }]}
            onChoose={(next) => ask({ show: next })}
          />{" "}
          <ChoicePart
            label={t("in_which_groups")}
            value={grouping}
            groups={[{ options: GROUPINGS }]}
            onChoose={(next) => ask({ group: next })}
          />
        </span>
        {mayEdit && (
          <>
            <ToolSheets form={form} />
            <Button ref={begin} look="solid" onClick={openNew}>
              <Plus size={18} aria-hidden="true" /> {t("new_rule_2")}
            </Button>
          </>
        )}
      </div>
      {open === NEW && mayEdit && (
        <RuleEditor
          key={`${asked.about}:${asked.line}`}
          form={form}
          view={null}
          begun={begun}
          onClose={() => close(NEW)}
          onAdded={reveal}
        />
      )}
      <Register
        form={form}
        shown={shown}
        grouping={grouping}
        open={mayEdit ? open : null}
        mayEdit={mayEdit}
        chosen={chosen}
        filter={filter}
        onFilter={(next) => ask({ show: next })}
        onChoose={choose}
        onOpen={openRule}
        onClose={close}
        onAdded={reveal}
        added={added}
        onAdjust={adjust.mutate}
        onMove={mayOrder ? move : null}
        onDrop={mayOrder ? drop : null}
        chosenBar={
          picked.length > 0 && (
            <ChosenRules
              views={picked}
              onAdjust={adjust.mutate}
              onTakeOut={() => remove.mutate(picked)}
              onNone={() => setChosen(new Set())}
            />
          )
        }
        onChooseAll={(take) => setChosen(new Set(take ? shown.map((v) => v.rule.key) : []))}
      />
      {shown.length === 0 && (
        <p className="py-6 text-muted">
          {form.rules.length === 0
            ? t("no_rule_yet_a_record_of_this")
            : t("no_rule_fits_clear_the_search_or")}
        </p>
      )}
    </Page>
  );
}

type RegisterProps = {
  form: FormView;
  shown: RuleView[];
  grouping: Grouping;
  open: string | null;
  mayEdit: boolean;
  chosen: ReadonlySet<string>;
  filter: Filter;
  onFilter: (filter: Filter) => void;
  onChoose: (key: string, chosen: boolean) => void;
  onChooseAll: (chosen: boolean) => void;
  onOpen: (key: string) => void;
  onClose: (key: string) => void;
  onAdded: (key: string, rewrite: boolean) => void;
  /** The rule that was added last: it is brought into view. */
  added: string | null;
  onAdjust: ReturnType<typeof useAdjustRules>["mutate"];
  onMove: ((key: string, by: -1 | 1) => void) | null;
  onDrop: ((key: string, before: string) => void) | null;
  chosenBar: React.ReactNode;
};

/** Only the rows near the window are drawn, so that a thousand rules scroll as ten do. */
function Register(props: RegisterProps) {
  const { form, shown, grouping, open, mayEdit, chosen } = props;
  const lines = useMemo(() => linesOf(form, shown, grouping), [form, shown, grouping]);
  const box = useRef<HTMLTableElement>(null);
  const [column, setColumn] = useState(REWRITE);
  const [top, setTop] = useState(0);
  useLayoutEffect(() => {
    const place = () => setTop(box.current?.offsetTop ?? 0);
    place();
    // What stands above the register, a new rule say, can grow and shrink.
    const watcher = new ResizeObserver(place);
    watcher.observe(document.body);
    return () => watcher.disconnect();
  }, []);
  const rows = useWindowVirtualizer({
    count: lines.length,
    estimateSize: () => ROW_HEIGHT,
    overscan: ROWS_BEYOND,
    scrollMargin: top,
    getItemKey: (index) => {
      const line = lines[index];
      return line?.kind === "rule" ? line.view.rule.key : `head:${line?.key}`;
    },
  });
  const place = lines.findIndex((line) => line.kind === "rule" && line.view.rule.key === open);
  const scrollTo = rows.scrollToIndex;
  useEffect(() => {
    if (place >= 0) scrollTo(place, { align: "auto" });
  }, [place, scrollTo]);
  const { added } = props;
  const arrived = lines.findIndex((line) => line.kind === "rule" && line.view.rule.key === added);
  useEffect(() => {
    if (arrived < 0) return;
    scrollTo(arrived, { align: "center" });
    const rewrite = `[data-rewrite="${added}"]`;
    focusSoon(() => box.current?.querySelector<HTMLElement>(rewrite));
  }, [arrived, added, scrollTo]);
  const found = findingsByRule(useFindings(form.key, form.revision).data);
  const items = rows.getVirtualItems();
  const above = (items[0]?.start ?? top) - top;
  const below = rows.getTotalSize() - ((items.at(-1)?.end ?? top) - top);
  return (
    <table
      ref={box}
      aria-label={t("rules_of_name", { name: form.name })}
      aria-rowcount={lines.length + 1}
      className="w-full table-fixed border-b border-edge"
      onKeyDown={moveAmongCells}
      onFocus={(event) => setColumn((now) => columnOf(event.target) ?? now)}
    >
      <Head {...props} />
      <tbody>
        <Beyond height={above} />
        {items.map((item) => {
          const line = lines[item.index];
          if (!line) return null;
          const at = {
            "data-index": item.index,
            "aria-rowindex": item.index + 2,
            ref: rows.measureElement,
          };
          if (line.kind === "head")
            return (
              <tr key={item.key} {...at} className="border-b border-hairline">
                <th
                  scope="rowgroup"
                  colSpan={COLUMNS}
                  className="pt-4 pb-1 pl-2 text-left font-medium font-serif text-xl"
                >
                  {line.label}
                </th>
              </tr>
            );
          const { view } = line;
          const { key } = view.rule;
          if (open === key)
            return (
              <tr key={item.key} {...at}>
                <td colSpan={COLUMNS}>
                  <RuleEditor
                    form={form}
                    view={view}
                    onClose={() => props.onClose(key)}
                    onAdded={props.onAdded}
                  />
                </td>
              </tr>
            );
          return (
            <tr
              key={item.key}
              {...at}
              className={`border-b border-hairline align-top *:px-1 *:py-2 ${view.rule.enabled ? "" : "opacity-70"}`}
              onDragOver={(event) => props.onDrop && event.preventDefault()}
              onDrop={(event) => {
                const dragged = event.dataTransfer.getData(RULE_DRAGGED);
                if (dragged && dragged !== key) props.onDrop?.(dragged, key);
              }}
            >
              <RuleRow
                view={view}
                row={item.index}
                mayEdit={mayEdit}
                formKey={form.key}
                findings={found.get(key) ?? 0}
                chosen={chosen.has(key)}
                column={column}
                onChoose={props.onChoose}
                onOpen={props.onOpen}
                onAdjust={props.onAdjust}
                onMove={props.onMove}
              />
            </tr>
          );
        })}
        <Beyond height={below} />
      </tbody>
    </table>
  );
}

/** The rows that are not drawn, as high as they would be. */
function Beyond({ height }: { height: number }) {
  if (height <= 0) return null;
  return (
    <tr>
      <td colSpan={COLUMNS} style={{ height }} />
    </tr>
  );
}

function Head(props: RegisterProps) {
  const { form, shown, chosen, mayEdit } = props;
  return (
    <thead className="sticky top-0 z-10 bg-ground text-left">
      <tr className="border-b border-hairline align-bottom *:bg-ground *:shadow-[0_-8px_0_var(--ground)] *:px-1 *:py-2 *:font-normal">
        <td className="w-17">
          {mayEdit && (
            <input
              type="checkbox"
              aria-label={t("choose_all_that_are_shown")}
              className="size-6 accent-thistle"
              checked={shown.length > 0 && shown.every((view) => chosen.has(view.rule.key))}
              onChange={(event) => props.onChooseAll(event.target.checked)}
            />
          )}
        </td>
        <th scope="col" className="text-muted">
          {t("rule")}
        </th>
        {MOMENTS.map((moment) => (
          <th key={moment} scope="col" className="w-30">
            <MomentHead
              form={form}
              moment={moment}
              filter={props.filter}
              onFilter={props.onFilter}
            />
          </th>
        ))}
        <th scope="col" className="w-16 text-muted">
          {t("in_use")}
        </th>
      </tr>
      {props.chosenBar && (
        <tr>
          <td colSpan={COLUMNS}>{props.chosenBar}</td>
        </tr>
      )}
    </thead>
  );
}

type HeadProps = {
  form: FormView;
  moment: Moment;
  filter: Filter;
  onFilter: (filter: Filter) => void;
};

function MomentHead({ form, moment, filter, onFilter }: HeadProps) {
  const blocks = form.rules.filter((v) => v.rule.enabled && v.speaks[moment] === "block").length;
  const own: Filter = moment === "save" ? "stops_save" : "stops_submit";
  const only = filter === own;
  return (
    <>
      <span className="block px-2 font-serif text-lg">{MOMENT_WORDS[moment]}</span>
      {moment === "entry" ? (
        <span className="block px-2 text-sm text-muted">{t("never_stops")}</span>
      ) : (
        <button
          type="button"
          aria-pressed={only}
          onClick={() => onFilter(only ? "all" : own)}
          className="flex min-h-6 items-center gap-1 whitespace-nowrap rounded-xs px-2 text-sm text-muted hover:bg-tint aria-pressed:bg-tint aria-pressed:text-ink"
        >
          <Facet level="block" size={12} />
          {only ? t("show_all_rules") : t("blocks_can_stop_it", { blocks })}
        </button>
      )}
    </>
  );
}
