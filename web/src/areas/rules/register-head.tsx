// The head of the register: how many rules can stop a record at each moment, and what is chosen.
import type { ReactNode } from "react";
import { Facet } from "../../ui/facet";
import { words } from "../../words";
import type { FormView } from "../form/form";
import { MOMENT_WORDS, MOMENTS, type Moment, type RuleView } from "../form/rule";
import type { Filter } from "./register";
import { COLUMNS } from "./rule-row";

const t = words("rules");

type Props = {
  form: FormView;
  shown: RuleView[];
  chosen: ReadonlySet<string>;
  mayEdit: boolean;
  filter: Filter;
  onFilter: (filter: Filter) => void;
  onChooseAll: (chosen: boolean) => void;
  chosenBar: ReactNode;
};

export function RegisterHead(props: Props) {
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
