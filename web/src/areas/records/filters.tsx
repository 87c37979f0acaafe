// Which records are listed: the filters at hand, and further ones when asked for.
import { ListFilter } from "lucide-react";
import { useState } from "react";
import type { Schemas } from "../../api/client";
import { Button } from "../../ui/button";
import { DayInput } from "../../ui/day-input";
import { LabelledSelect } from "../../ui/labelled-select";
import { ListInput } from "../../ui/list-input";
import { SearchBox } from "../../ui/search-box";
import { words } from "../../words";
import {
  type Asked,
  asksFurther,
  type Condition,
  columnsIn,
  conditionsIn,
  ORDERS,
  OUTCOMES,
  STATE_WORDS,
  STATES,
  whereOf,
} from "./asking";
import { FieldCondition } from "./field-condition";
import { NamedLists } from "./named-lists";
import { useColleagues } from "./queries";

const t = words("records");

type Desk = Schemas["DeskFormView"];
type Props = {
  formKey: string;
  asked: Asked;
  /** The form as it is filled in; without a release there is none. */
  desk: Desk | undefined;
  onAsk: (part: Partial<Asked>) => void;
};

export function Filters({ formKey, asked, desk, onAsk }: Props) {
  const further = asksFurther(asked);
  const [open, setOpen] = useState(further > 0);
  return (
    <>
      <SearchBox
        label={t("search_the_records")}
        placeholder={t("search_number_or_name")}
        value={asked.search}
        onChange={(search) => onAsk({ search })}
      />
      <LabelledSelect
        label={t("state")}
        none={t("any")}
        value={asked.state}
        options={STATES.map((state) => [state, STATE_WORDS[state]])}
        onChange={(state) => onAsk({ state })}
      />
      <LabelledSelect
        label={t("outcome")}
        none={t("any")}
        value={asked.outcome}
        options={OUTCOMES.map((outcome) => [outcome, outcome])}
        onChange={(outcome) => onAsk({ outcome })}
      />
      <label className="flex items-center gap-1.5 text-muted">
        <input
          type="checkbox"
          className="size-4 accent-thistle"
          checked={asked.on_hold === "yes"}
          onChange={(event) => onAsk({ on_hold: event.target.checked ? "yes" : "" })}
        />
        {t("on_hold_only")}
      </label>
      <Button
        look="quiet"
        aria-expanded={open}
        aria-controls="further-filters"
        onClick={() => setOpen(!open)}
      >
        <ListFilter size={16} aria-hidden="true" />
        {further > 0 ? t("further_filters_further", { further }) : t("further_filters")}
      </Button>
      {open && (
        <section
          id="further-filters"
          aria-label={t("further_filters")}
          className="w-full border-l-4 border-thistle bg-leaf px-4 py-3"
        >
          <Further formKey={formKey} asked={asked} desk={desk} onAsk={onAsk} />
        </section>
      )}
    </>
  );
}

function Further({ formKey, asked, desk, onAsk }: Props) {
  const people = useColleagues().data ?? [];
  const named = people.map(({ name, shown_name }): [string, string] => [name, shown_name]);
  const fields = desk?.fields.filter(({ key }) => desk.asked_by.includes(key)) ?? [];
  const conditions = conditionsIn(asked.where);
  const put = (next: readonly Condition[]) => onAsk({ where: whereOf(next) });
  const first = fields[0];
  return (
    <>
      <div className="flex flex-wrap items-center gap-x-5 gap-y-2">
        <LabelledSelect
          label={t("violated_rule")}
          none={t("any")}
          value={asked.violates}
          options={Object.entries(desk?.rules ?? {})}
          onChange={(violates) => onAsk({ violates })}
        />
        <LabelledSelect
          label={t("whose_it_is")}
          none={t("any")}
          value={asked.keeper}
          options={named}
          onChange={(keeper) => onAsk({ keeper })}
        />
        <LabelledSelect
          label={t("stored_last_by")}
          none={t("any")}
          value={asked.by}
          options={named}
          onChange={(by) => onAsk({ by })}
        />
        <span className="text-muted">
          {t("stored_last")}{" "}
          <DayInput
            label={t("from")}
            labelShown
            placeholder={t("any_day")}
            className="line-input w-36"
            value={asked.since}
            onChange={(since) => onAsk({ since })}
          />{" "}
          <DayInput
            label={t("to_2")}
            labelShown
            placeholder={t("any_day")}
            className="line-input w-36"
            value={asked.until}
            onChange={(until) => onAsk({ until })}
          />
        </span>
      </div>
      {conditions.map((condition, place) => (
        <FieldCondition
          // biome-ignore lint/suspicious/noArrayIndexKey: conditions have no other name
          key={place}
          fields={fields}
          condition={condition}
          number={place + 1}
          onChange={(next) => put(conditions.map((one, at) => (at === place ? next : one)))}
          onRemove={() => put(conditions.filter((_, at) => at !== place))}
        />
      ))}
      <div className="mt-2 flex flex-wrap items-center gap-x-5 gap-y-2">
        {first && (
          <Button
            onClick={() => put([...conditions, { field: first.key, relation: "is", value: "" }])}
          >
            {t("ask_of_a_field")}
          </Button>
        )}
        <LabelledSelect
          label={t("in_which_order")}
          value={asked.order}
          options={Object.entries(ORDERS)}
          onChange={(order) => onAsk({ order })}
        />
        <span className="text-muted">
          {t("shown_beside_each")}{" "}
          <ListInput
            label={t("fields_shown_beside_each_record")}
            values={columnsIn(asked.columns)}
            options={fields.map(({ key, label }) => ({ value: key, label }))}
            empty={t("no_further_field")}
            inOrderChosen
            onChange={(columns) => onAsk({ columns: columns.slice(-8).join(",") })}
          />
        </span>
        <NamedLists formKey={formKey} asked={asked} onAsk={onAsk} />
      </div>
    </>
  );
}
