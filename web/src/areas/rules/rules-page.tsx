// The register of a form's rules, with the three moments side by side.

import { Plus } from "lucide-react";
import { useCallback, useMemo, useRef, useState } from "react";
import { useParams } from "react-router";
import { useMay } from "../../api/session";
import { useAddress } from "../../ui/address";
import { Button } from "../../ui/button";
import { ChoicePart } from "../../ui/choice-part";
import { useScrollKept } from "../../ui/kept";
import { useKey } from "../../ui/keys";
import { Page } from "../../ui/page";
import { SearchBox } from "../../ui/search-box";
import { words } from "../../words";
import { type FormView, useForm } from "../form/form";
import { moved, useReordering } from "../form/order";
import { useTieToPlan } from "../plan/queries";
import { ChosenRules } from "./chosen-rules";
import { BEGINS } from "./opening";
import { useAdjustRules, useOrderRules, useRemoveRules } from "./queries";
import { FILTERS, type Filter, GROUPINGS, type Grouping, shownOf } from "./register";
import { RegisterTable } from "./register-table";
import { RuleEditor } from "./rule-editor";
import { ToolSheets } from "./tool-sheets";

const t = words("rules");

const NEW = "new";
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
  const ordering = useReordering(
    form.rules.map((view) => view.rule.key),
    order,
  );
  const mayOrder = grouping === "order" && shown.length === form.rules.length;
  const move = useCallback(
    (key: string, by: -1 | 1) => ordering.put((meant) => moved(meant, key, by)),
    [ordering],
  );
  return (
    <Page title={t("rules")} of={form.name} className="mx-auto w-full max-w-7xl px-6 py-5">
      <Tools
        form={form}
        asked={{ search, filter, grouping }}
        ask={ask}
        onBegin={mayEdit ? openNew : null}
      />
      {open === NEW && mayEdit && (
        <RuleEditor
          key={`${asked.about}:${asked.line}`}
          openedBy={BEGINS}
          form={form}
          view={null}
          begun={begun}
          onClose={() => close(NEW)}
          onAdded={reveal}
        />
      )}
      <RegisterTable
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
        onDrop={mayOrder ? (key, before) => ordering.drop(key, before) : null}
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

type ToolsProps = {
  form: FormView;
  asked: { search: string; filter: Filter; grouping: Grouping };
  ask: (part: Partial<typeof USUAL>) => void;
  onBegin: (() => void) | null;
};

/** What is looked for and shown, and what begins new rules. */
function Tools({ form, asked, ask, onBegin }: ToolsProps) {
  return (
    <div className="mb-3 flex flex-wrap items-center gap-x-4 gap-y-2">
      <SearchBox
        label={t("search_the_rules")}
        placeholder={t("search_names_sentences_messages")}
        value={asked.search}
        onChange={(next) => ask({ search: next })}
      />
      <span className="mr-auto">
        {t("showing")}{" "}
        <ChoicePart
          label={t("which_rules_are_shown")}
          value={asked.filter}
          groups={[{ options: FILTERS }]}
          onChoose={(next) => ask({ show: next })}
        />{" "}
        <ChoicePart
          label={t("in_which_groups")}
          value={asked.grouping}
          groups={[{ options: GROUPINGS }]}
          onChoose={(next) => ask({ group: next })}
        />
      </span>
      {onBegin && (
        <>
          <ToolSheets form={form} />
          <Button data-opens={BEGINS} look="solid" onClick={onBegin}>
            <Plus size={18} aria-hidden="true" /> {t("new_rule_2")}
          </Button>
        </>
      )}
    </div>
  );
}
