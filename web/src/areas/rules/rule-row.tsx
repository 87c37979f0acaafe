// One rule in the register: its sentence, its three moments, its switch.

import { GripVertical } from "lucide-react";
import { Switch } from "radix-ui";
import { type KeyboardEvent, memo } from "react";
import { Link } from "react-router";
import { counted } from "../../ui/counts";
import { Sentence } from "../../ui/sentence";
import { ProblemList } from "../../ui/trouble";
import { words } from "../../words";
import { isCheck, MOMENTS, type RuleView } from "../form/rule";
import { type CellProps, CHOOSE, COLUMN_OF, MOVE, REWRITE, SWITCH, stopOf } from "./cells";
import { openerOf } from "./opening";
import type { Adjustment } from "./queries";
import { SeverityMark } from "./severity-mark";

const t = words("rules");

/** How many columns the register has. */
export const COLUMNS = 6;

type Props = {
  view: RuleView;
  row: number;
  mayEdit: boolean;
  /** How many findings there are about it that are not dismissed. */
  findings: number;
  formKey: string;
  chosen: boolean;
  /** The column of the register that was used last. */
  column: number;
  onChoose: (key: string, chosen: boolean) => void;
  onOpen: (key: string) => void;
  onAdjust: (adjustment: Adjustment) => void;
  /** Null where the rules are not shown in their order. */
  onMove: ((key: string, by: -1 | 1) => void) | null;
};

export const RuleRow = memo(function RuleRow(props: Props) {
  const { view, row, mayEdit, chosen, onChoose, onOpen, onAdjust, onMove } = props;
  const { rule, called, sentence, problems } = view;
  const keys = [rule.key];
  const settled = isCheck(rule) && rule.hold;
  const marks = isCheck(rule)
    ? MOMENTS.filter((moment) => !settled || moment === "entry").map((one) => COLUMN_OF[one])
    : [];
  const stop = stopOf([CHOOSE, ...(onMove ? [MOVE] : []), REWRITE, ...marks, SWITCH], props.column);
  const cell = (column: number) => ({
    "data-cell": `${row}-${column}`,
    tabIndex: (column === stop ? 0 : -1) as 0 | -1,
  });
  return (
    <>
      <td className="whitespace-nowrap">
        {mayEdit && (
          <input
            type="checkbox"
            aria-label={t("choose_called", { called })}
            {...cell(CHOOSE)}
            className="size-6 accent-thistle align-middle"
            checked={chosen}
            onChange={(event) => onChoose(rule.key, event.target.checked)}
          />
        )}
        {mayEdit && onMove && <MoveHandle view={view} cell={cell(MOVE)} onMove={onMove} />}
      </td>
      <th scope="row" className="text-left font-normal">
        {rule.name && <p className="text-sm text-muted">{rule.name}</p>}
        <p className="text-[1.05rem]">
          <Sentence segments={sentence} />
          {mayEdit && (
            <button
              type="button"
              className="ml-2 rounded-xs px-1.5 text-[0.95rem] text-thistle hover:bg-tint"
              data-opens={openerOf(rule.key)}
              {...cell(REWRITE)}
              onClick={() => onOpen(rule.key)}
              aria-label={t("rewrite_called", { called })}
            >
              {t("rewrite")}
            </button>
          )}
        </p>
        {props.findings > 0 && (
          <Link
            to={`/forms/${props.formKey}/findings?by=rule&rule=${rule.key}`}
            className="inline-flex min-h-6 items-center text-sm text-ochre underline"
          >
            {counted(props.findings, "finding")}
          </Link>
        )}
        {view.overspent && <p className="text-madder">{t("seen_on_the_bench_to_take_more")}</p>}
        {problems.length > 0 && (
          <div className="text-madder">
            {t("unfinished_so_it_has_no_effect")}
            <ProblemList items={problems} />
          </div>
        )}
      </th>
      {MOMENTS.map((moment) => (
        <td key={moment}>
          {isCheck(rule) && (
            <SeverityMark
              rule={called}
              moment={moment}
              cell={mayEdit ? cell : undefined}
              severity={rule.severity[moment]}
              counts={view.speaks[moment]}
              holds={rule.hold}
              disabled={!mayEdit}
              onStep={(next) => onAdjust({ keys, severity: { [moment]: next } })}
            />
          )}
        </td>
      ))}
      <td>
        <Switch.Root
          checked={rule.enabled}
          disabled={!mayEdit}
          onCheckedChange={(on) => onAdjust({ keys, enabled: on })}
          aria-label={t("in_use_called", { called })}
          {...(mayEdit && cell(SWITCH))}
          className="mt-1 h-6 w-11 rounded-xs border border-edge bg-leaf data-[state=checked]:bg-tint"
        >
          <Switch.Thumb className="block size-4 translate-x-1 rotate-45 scale-75 bg-edge transition-transform motion-reduce:transition-none data-[state=checked]:translate-x-5 data-[state=checked]:bg-thistle" />
        </Switch.Root>
      </td>
    </>
  );
});

type HandleProps = {
  view: RuleView;
  cell: CellProps;
  onMove: (key: string, by: -1 | 1) => void;
};

export const RULE_DRAGGED = "application/x-thistlequartz-rule";

function MoveHandle({ view: { rule, called }, cell, onMove }: HandleProps) {
  function onKeyDown(event: KeyboardEvent) {
    const by = event.key === "ArrowUp" ? -1 : event.key === "ArrowDown" ? 1 : 0;
    if (by === 0 || !event.altKey) return;
    event.preventDefault();
    onMove(rule.key, by);
  }
  return (
    <button
      type="button"
      id={`move-rule-${rule.key}`}
      draggable
      onDragStart={(event) => event.dataTransfer.setData(RULE_DRAGGED, rule.key)}
      onKeyDown={onKeyDown}
      {...cell}
      aria-label={t("move_called_alt_arrow_up_or_down", { called })}
      className="inline-flex size-7 cursor-grab items-center justify-center rounded-xs align-middle text-muted hover:bg-tint"
    >
      <GripVertical size={16} aria-hidden="true" />
    </button>
  );
}
