// The table of cases by rules. Only the rows near the window are drawn.

import { useWindowVirtualizer } from "@tanstack/react-virtual";
import { useLayoutEffect, useRef, useState } from "react";
import type { Schemas } from "../../api/client";
import { Facet, LEVEL_COLOUR } from "../../ui/facet";
import { showSoon } from "../../ui/focus";
import { writtenNumber } from "../../ui/written";
import { words } from "../../words";
import type { FormView } from "../form/form";
import { levelOf, OUTCOME_WORDS, STATUS_WORDS } from "../form/outcomes";
import { CaseDetails } from "./case-details";
import { columnsFor } from "./columns";
import type { CaseTable, CaseView } from "./queries";

const t = words("cases");

type Props = {
  form: FormView;
  rules: CaseTable["rules"];
  rows: CaseView[];
  mayEdit: boolean;
  chosen: ReadonlySet<string>;
  onChoose: (chosen: ReadonlySet<string>) => void;
  /** The case that is opened. */
  open: string | null;
  onOpen: (key: string | null) => void;
};

const ROW_HEIGHT = 46;

export function CaseTableView(props: Props) {
  const { rules, rows, chosen, onChoose, mayEdit } = props;
  const { open, onOpen } = props;
  const [column, setColumn] = useState<string | null>(null);
  const body = useRef<HTMLTableSectionElement>(null);
  const [offset, setOffset] = useState(0);
  useLayoutEffect(() => setOffset(body.current?.offsetTop ?? 0), []);
  const virtual = useWindowVirtualizer({
    count: rows.length,
    estimateSize: () => ROW_HEIGHT,
    overscan: 12,
    scrollMargin: offset,
    getItemKey: (place) => rows[place]?.key ?? place,
  });
  const { shown: spoken, left } = columnsFor(rules, rows);
  const all = rows.length > 0 && rows.every((row) => chosen.has(row.key));
  const items = virtual.getVirtualItems();
  const above = (items[0]?.start ?? offset) - offset;
  const below = virtual.getTotalSize() - ((items.at(-1)?.end ?? offset) - offset);
  const width = spoken.length + 3 + Number(mayEdit);
  return (
    <table className="w-full table-fixed" aria-rowcount={rows.length + 1}>
      <caption className={left > 0 ? "pb-1 text-right text-sm text-muted" : "sr-only"}>
        {t("cases_by_rules", {
          isLeft: String(Boolean(left > 0)),
          left,
          leftShown: writtenNumber(left),
        })}
      </caption>
      <thead className="sticky top-0 z-10 bg-ground text-left shadow-[0_1px_0_var(--edge)] text-sm text-muted">
        <tr className="border-b border-edge align-bottom *:pb-1 *:font-normal">
          {mayEdit && (
            <th className="w-7">
              <input
                type="checkbox"
                className="size-4 accent-thistle"
                aria-label={t("choose_all_that_are_shown")}
                checked={all}
                onChange={() => onChoose(all ? new Set() : new Set(rows.map((row) => row.key)))}
              />
            </th>
          )}
          <th scope="col">{t("case")}</th>
          <th scope="col" className="w-24">
            {t("saving")}
          </th>
          <th scope="col" className="w-24">
            {t("submitting")}
          </th>
          {spoken.map((rule) => (
            <th
              key={rule.key}
              scope="col"
              title={rule.name}
              className={`w-4 ${column === rule.key ? "font-semibold! text-ink" : ""}`}
            >
              <span className="inline-block max-h-44 rotate-180 truncate leading-4 [text-orientation:sideways] [writing-mode:vertical-rl]">
                {rule.name}
              </span>
            </th>
          ))}
        </tr>
      </thead>
      <tbody ref={body}>
        {above > 0 && (
          <tr style={{ height: above }}>
            <td colSpan={width} />
          </tr>
        )}
      </tbody>
      {items.map((item) => {
        const row = rows[item.index];
        return (
          row && (
            <tbody key={row.key} ref={virtual.measureElement} data-index={item.index}>
              <Row
                row={row}
                rules={rules}
                spoken={spoken}
                mayEdit={mayEdit}
                chosen={chosen.has(row.key)}
                onChoose={() => {
                  const next = new Set(chosen);
                  if (!next.delete(row.key)) next.add(row.key);
                  onChoose(next);
                }}
                open={open === row.key}
                onOpen={() => {
                  onOpen(open === row.key ? null : row.key);
                  showSoon(() => document.getElementById(`details-${row.key}`));
                }}
                onColumn={setColumn}
              />
              {open === row.key && (
                <tr id={`details-${row.key}`} className="border-b border-hairline">
                  <td colSpan={width}>
                    <CaseDetails {...props} row={row} />
                  </td>
                </tr>
              )}
            </tbody>
          )
        );
      })}
      {below > 0 && (
        <tbody>
          <tr style={{ height: below }}>
            <td colSpan={width} />
          </tr>
        </tbody>
      )}
    </table>
  );
}

type RowProps = {
  row: CaseView;
  rules: CaseTable["rules"];
  spoken: CaseTable["rules"];
  mayEdit: boolean;
  chosen: boolean;
  onChoose: () => void;
  open: boolean;
  onOpen: () => void;
  onColumn: (rule: string | null) => void;
};

const STATE: Record<CaseView["state"], [string, string]> = {
  passes: ["text-moss", "passes"],
  fails: ["text-madder", "fails"],
  cannot_run: ["text-ochre", t("cannot_be_run")],
  not_run: ["text-muted", t("not_run_yet")],
};

function Row({ row, rules, spoken, ...props }: RowProps) {
  const [colour, words] = STATE[row.state];
  const place = new Map(rules.map((rule, position) => [rule.key, position]));
  return (
    <tr className="border-b border-hairline *:py-1 hover:bg-tint">
      {props.mayEdit && (
        <td>
          <input
            type="checkbox"
            className="size-4 scroll-mt-56 accent-thistle"
            aria-label={t("choose_name", { name: row.case.name })}
            checked={props.chosen}
            onChange={props.onChoose}
          />
        </td>
      )}
      <th scope="row" className="pr-2 text-left font-normal">
        <button
          type="button"
          aria-expanded={props.open}
          className="block max-w-full scroll-mt-56 truncate text-left hover:text-thistle"
          title={row.case.name}
          onClick={props.onOpen}
        >
          {row.case.name}
        </button>
        <span className={`block truncate text-sm ${colour}`} title={row.told.join(" ")}>
          {words}
          {row.told[0] && `: ${row.told[0]}`}
        </span>
      </th>
      <Found outcome={row.save} />
      <Found outcome={row.submit} />
      {spoken.map((rule) => (
        <Mark
          key={rule.key}
          rule={rule}
          status={row.statuses[place.get(rule.key) ?? -1]}
          expected={row.case.expected.violated?.includes(rule.key)}
          onColumn={props.onColumn}
        />
      ))}
    </tr>
  );
}

function Found({ outcome }: { outcome: CaseView["save"] }) {
  if (!outcome) return <td className="text-muted">–</td>;
  const level = levelOf(outcome);
  return (
    <td>
      <span className={`flex items-center gap-1.5 text-sm ${LEVEL_COLOUR[level]}`}>
        <Facet level={level} size={14} /> {OUTCOME_WORDS[outcome].toLowerCase()}
      </span>
    </td>
  );
}

type MarkProps = {
  rule: Schemas["CaseRule"];
  status: CaseView["statuses"][number] | undefined;
  /** Whether it should be violated; undefined: the case does not look at that. */
  expected: boolean | undefined;
  onColumn: (rule: string | null) => void;
};

const QUIET: Partial<Record<CaseView["statuses"][number], string>> = {
  satisfied: "·",
  not_evaluable: "",
  not_applicable: "",
};

/** A violated rule as hard as it speaks; a dot where it is met; nothing where it has no say. */
function Mark({ rule, status, expected, onColumn }: MarkProps) {
  const violated = status === "violated";
  const hardest = (["block", "warn", "note"] as const).find((one) =>
    [rule.save, rule.submit].includes(one),
  );
  const differs =
    status !== undefined &&
    hardest !== undefined &&
    expected !== undefined &&
    violated !== expected;
  const words = t("status_of_a_rule", {
    rule: rule.name,
    status: status ? STATUS_WORDS[status] : t("not_run"),
    differs: String(differs),
  });
  return (
    <td
      title={words}
      onMouseEnter={() => onColumn(rule.key)}
      onMouseLeave={() => onColumn(null)}
      className={`text-center ${differs ? "outline-2 -outline-offset-1 outline-madder" : ""}`}
    >
      {violated && hardest ? (
        <Facet level={hardest} size={12} />
      ) : (
        <span aria-hidden="true" className="text-moss">
          {(status && QUIET[status]) ?? ""}
        </span>
      )}
      {(violated || differs) && <span className="sr-only">{words}</span>}
    </td>
  );
}
