import { useState } from "react";
import { Tick } from "../../ui/inputs";
import { singleKeysOn, switchSingleKeys } from "../../ui/keys";
import { Sheet } from "../../ui/sheet";
import { words } from "../../words";

const t = words("frame");

const KEYS: [string, string][] = [
  ["?", t("show_these_shortcuts")],
  ["Ctrl + K", t("go_to_any_form_field_rule_or")],
  ["Ctrl + Z, Ctrl + Y", t("take_back_your_last_change_to_a")],
  ["n", t("among_the_rules_or_the_fields_begin")],
  [t("arrow_keys"), t("in_the_register_from_part_to_part")],
  [t("space_or"), t("on_a_mark_one_step_harder")],
  ["−", t("on_a_mark_one_step_milder")],
  ["0, 1, 2, 3", t("on_a_mark_nothing_note_warn_block")],
  ["F2", t("in_a_condition_the_formula_in_the")],
  ["Ctrl + Space", t("in_a_formula_the_names_and_functions")],
  ["Alt + arrow up or down", t("on_the_handle_of_a_field_or")],
  ["Alt + arrow down", t("in_a_day_open_the_calendar")],
  ["Ctrl + Enter", t("store_what_is_open_the_rule_the")],
  ["F8", t("on_the_bench_flip_the_answer_you")],
  ["F9", t("on_the_bench_draw_where_the_field")],
  ["Alt + , and Alt + .", t("on_the_bench_one_step_back_one")],
  ["j, k", t("among_the_records_to_approve_the_next")],
  [t("x_a_b"), t("there_choose_approve_return")],
  ["Escape", t("close_what_is_open_what_was_typed")],
];

export function Shortcuts(props: { open: boolean; onOpenChange: (open: boolean) => void }) {
  return (
    <Sheet title={t("keyboard_shortcuts")} {...props}>
      <SingleKeys />
      <dl className="mt-3 grid grid-cols-[auto_1fr] gap-x-6 gap-y-2">
        {KEYS.map(([key, what]) => (
          <div key={key} className="contents">
            <dt>
              <kbd className="rounded-xs border border-edge bg-leaf px-2 py-0.5 font-mono text-sm">
                {key}
              </kbd>
            </dt>
            <dd>{what}</dd>
          </div>
        ))}
      </dl>
    </Sheet>
  );
}

/** Whether n and ? do something by themselves; all they do is in Ctrl + K too. */
function SingleKeys() {
  const [on, setOn] = useState(singleKeysOn);
  return (
    <Tick
      checked={on}
      onChange={(next) => {
        setOn(next);
        switchSingleKeys(next);
      }}
    >
      {t("n_and_do_something_by_themselves_without")}
    </Tick>
  );
}
