// Which records are listed: the filters at hand, and further ones when asked for.
import { ListFilter } from "lucide-react";
import { useState } from "react";
import type { Schemas } from "../../api/client";
import { Button } from "../../ui/button";
import { DayInput } from "../../ui/day-input";
import { LabelledSelect } from "../../ui/labelled-select";
import { ListInput } from "../../ui/list-input";
import { SearchBox } from "../../ui/search-box";
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
        label="Search the records"
        placeholder="Search number or name"
        value={asked.search}
        onChange={(search) => onAsk({ search })}
      />
      <LabelledSelect
        label="State"
        none="any"
        value={asked.state}
        options={STATES.map((state) => [state, STATE_WORDS[state]])}
        onChange={(state) => onAsk({ state })}
      />
      <LabelledSelect
        label="Outcome"
        none="any"
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
        on hold only
      </label>
      <Button
        look="quiet"
        aria-expanded={open}
        aria-controls="further-filters"
        onClick={() => setOpen(!open)}
      >
        <ListFilter size={16} aria-hidden="true" />
        {further > 0 ? `Further filters: ${further}` : "Further filters"}
      </Button>
      {open && (
        <section
          id="further-filters"
          aria-label="Further filters"
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
          label="Violated rule"
          none="any"
          value={asked.breaks}
          options={Object.entries(desk?.rules ?? {})}
          onChange={(breaks) => onAsk({ breaks })}
        />
        <LabelledSelect
          label="Whose it is"
          none="any"
          value={asked.keeper}
          options={named}
          onChange={(keeper) => onAsk({ keeper })}
        />
        <LabelledSelect
          label="Stored last by"
          none="any"
          value={asked.by}
          options={named}
          onChange={(by) => onAsk({ by })}
        />
        <span className="text-muted">
          Stored last{" "}
          <DayInput
            label="from"
            labelShown
            placeholder="any day"
            className="line-input w-36"
            value={asked.since}
            onChange={(since) => onAsk({ since })}
          />{" "}
          <DayInput
            label="to"
            labelShown
            placeholder="any day"
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
            Ask of a field…
          </Button>
        )}
        <LabelledSelect
          label="In which order"
          value={asked.order}
          options={Object.entries(ORDERS)}
          onChange={(order) => onAsk({ order })}
        />
        <span className="text-muted">
          Shown beside each:{" "}
          <ListInput
            label="Fields shown beside each record"
            values={columnsIn(asked.columns)}
            options={fields.map(({ key, label }) => ({ value: key, label }))}
            empty="no further field"
            inOrderChosen
            onChange={(columns) => onAsk({ columns: columns.slice(-8).join(",") })}
          />
        </span>
        <NamedLists formKey={formKey} asked={asked} onAsk={onAsk} />
      </div>
    </>
  );
}
