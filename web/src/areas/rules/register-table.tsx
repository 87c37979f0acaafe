// The register of rules as a table: only the rows near the window are drawn, so that a thousand rules
// scroll as ten do.
import { useWindowVirtualizer } from "@tanstack/react-virtual";
import { useEffect, useLayoutEffect, useMemo, useRef, useState } from "react";
import { focusSoon } from "../../ui/focus";
import { words } from "../../words";
import { findingsByRule, useFindings } from "../findings/queries";
import type { FormView } from "../form/form";
import type { RuleView } from "../form/rule";
import { columnOf, moveAmongCells, REWRITE } from "./cells";
import { BEGINS, openerOf } from "./opening";
import type { useAdjustRules } from "./queries";
import { type Filter, type Grouping, linesOf } from "./register";
import { RegisterHead } from "./register-head";
import { RuleEditor } from "./rule-editor";
import { COLUMNS, RULE_DRAGGED, RuleRow } from "./rule-row";

const t = words("rules");

const ROW_HEIGHT = 68;
const ROWS_BEYOND = 12;

export type RegisterProps = {
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

export function RegisterTable(props: RegisterProps) {
  const { form, shown, grouping, open } = props;
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
    const opener = `[data-opens="${openerOf(added ?? "")}"]`;
    focusSoon(() => box.current?.querySelector<HTMLElement>(opener));
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
      <RegisterHead {...props} />
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
          if (line.kind === "head") return <GroupHead key={item.key} at={at} label={line.label} />;
          return (
            <RuleLine
              key={item.key}
              {...props}
              at={at}
              row={item.index}
              view={line.view}
              column={column}
              findings={found.get(line.view.rule.key) ?? 0}
            />
          );
        })}
        <Beyond height={below} />
      </tbody>
    </table>
  );
}

type At = { "data-index": number; "aria-rowindex": number; ref: (row: Element | null) => void };

function GroupHead({ at, label }: { at: At; label: string }) {
  return (
    <tr {...at} className="border-b border-hairline">
      <th
        scope="rowgroup"
        colSpan={COLUMNS}
        className="pt-4 pb-1 pl-2 text-left font-medium font-serif text-xl"
      >
        {label}
      </th>
    </tr>
  );
}

type LineProps = RegisterProps & {
  at: At;
  row: number;
  view: RuleView;
  column: number;
  findings: number;
};

/** A rule in its row, or its editor where it is open. */
function RuleLine({ at, row, view, column, findings, ...props }: LineProps) {
  const { form, open, mayEdit, chosen } = props;
  const { key } = view.rule;
  if (open === key)
    return (
      <tr {...at}>
        <td colSpan={COLUMNS}>
          <RuleEditor
            openedBy={`${openerOf(key)} ${BEGINS}`}
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
        row={row}
        mayEdit={mayEdit}
        formKey={form.key}
        findings={findings}
        chosen={chosen.has(key)}
        column={column}
        onChoose={props.onChoose}
        onOpen={props.onOpen}
        onAdjust={props.onAdjust}
        onMove={props.onMove}
      />
    </tr>
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
