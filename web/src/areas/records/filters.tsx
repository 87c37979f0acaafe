// Which records are listed: the filters at hand, further ones when asked for, and named lists.
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { ListFilter, X } from "lucide-react";
import { type FormEvent, useState } from "react";
import { answer, client, type Schemas } from "../../api/client";
import { Button } from "../../ui/button";
import { DayInput } from "../../ui/day-input";
import { ListInput } from "../../ui/list-input";
import { SearchBox } from "../../ui/search-box";
import { Trouble } from "../../ui/trouble";
import {
  type Asked,
  asksFurther,
  type Condition,
  columnsIn,
  conditionsIn,
  EVERYTHING,
  needsValue,
  ORDERS,
  OUTCOMES,
  RELATIONS,
  STATE_WORDS,
  STATES,
  whereOf,
} from "./asking";
import { useColleagues } from "./queries";

type Desk = Schemas["DeskForm"];
type Field = Desk["fields"][number];
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
      <Choosing
        label="State"
        value={asked.state}
        options={STATES.map((state) => [state, STATE_WORDS[state]])}
        onChange={(state) => onAsk({ state })}
      />
      <Choosing
        label="Outcome"
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
        <Choosing
          label="Rule it breaks"
          value={asked.breaks}
          options={Object.entries(desk?.rules ?? {})}
          onChange={(breaks) => onAsk({ breaks })}
        />
        <Choosing
          label="Whose it is"
          value={asked.keeper}
          options={named}
          onChange={(keeper) => onAsk({ keeper })}
        />
        <Choosing
          label="Stored last by"
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
        <Choosing
          label="In which order"
          value={asked.order}
          options={Object.entries(ORDERS)}
          any={false}
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

type ConditionProps = {
  fields: readonly Field[];
  condition: Condition;
  number: number;
  onChange: (next: Condition) => void;
  onRemove: () => void;
};

function relationsOf(field: Field | undefined) {
  return Object.entries(RELATIONS).filter(([relation]) => {
    if (relation === "contains") return field?.type === "text";
    if (relation === "from" || relation === "to")
      return !["choice", "yes_no", "reference", "text"].includes(field?.type ?? "");
    return true;
  });
}

function FieldCondition({ fields, condition, number, onChange, onRemove }: ConditionProps) {
  const field = fields.find(({ key }) => key === condition.field);
  const about = `condition ${number}`;
  return (
    <div className="mt-2 flex flex-wrap items-center gap-2">
      <Choosing
        label={`Field of ${about}`}
        hidden
        any={false}
        value={condition.field}
        options={fields.map(({ key, label }) => [key, label])}
        onChange={(key) => onChange({ field: key, relation: "is", value: "" })}
      />
      <Choosing
        label={`Comparison of ${about}`}
        hidden
        any={false}
        value={condition.relation}
        options={relationsOf(field)}
        onChange={(relation) => onChange({ ...condition, relation })}
      />
      {needsValue(condition.relation) && (
        <ConditionValue
          key={condition.field}
          field={field}
          label={`Value of ${about}`}
          value={condition.value}
          onChange={(value) => onChange({ ...condition, value })}
        />
      )}
      <Button look="quiet" aria-label={`Take out ${about}`} onClick={onRemove}>
        <X size={16} aria-hidden="true" />
      </Button>
    </div>
  );
}

type ValueProps = {
  field: Field | undefined;
  label: string;
  value: string;
  onChange: (value: string) => void;
};

function ConditionValue({ field, label, value, onChange }: ValueProps) {
  const [typed, setTyped] = useState(value);
  if (field?.type === "choice" || field?.type === "yes_no") {
    const options: [string, string][] =
      field.type === "choice"
        ? field.choices.map((choice) => [choice.code, choice.label])
        : [
            ["yes", "yes"],
            ["no", "no"],
          ];
    return (
      <Choosing
        label={label}
        hidden
        value={value}
        options={options}
        none="which answer?"
        onChange={onChange}
      />
    );
  }
  if (field?.type === "date")
    return <DayInput label={label} className="line-input w-40" value={value} onChange={onChange} />;
  return (
    <input
      aria-label={label}
      className="line-input w-44"
      value={typed}
      placeholder="value"
      onChange={(event) => setTyped(event.target.value)}
      onBlur={() => typed !== value && onChange(typed)}
      onKeyDown={(event) => event.key === "Enter" && onChange(typed)}
    />
  );
}

type ChoosingProps = {
  label: string;
  value: string;
  options: readonly (readonly [string, string])[];
  onChange: (value: string) => void;
  /** Whether the label is said only. */
  hidden?: boolean;
  /** Whether nothing in particular can be chosen. */
  any?: boolean;
  none?: string;
};

function Choosing({ label, value, options, onChange, hidden, any = true, none }: ChoosingProps) {
  return (
    <label className="text-muted">
      <span className={hidden ? "sr-only" : ""}>{label}</span>{" "}
      <select
        className="line-input max-w-64 text-ink"
        value={value}
        onChange={(event) => onChange(event.target.value)}
      >
        {any && <option value="">{none ?? "any"}</option>}
        {options.map(([code, words]) => (
          <option key={code} value={code}>
            {words}
          </option>
        ))}
      </select>
    </label>
  );
}

/** What is asked now, under a name to come back to. */
function NamedLists({ formKey, asked, onAsk }: Omit<Props, "desk">) {
  const queries = useQueryClient();
  const queryKey = ["lists", formKey];
  const path = { form_key: formKey };
  const lists = useQuery({
    queryKey,
    queryFn: () => answer(client.GET("/api/forms/{form_key}/lists", { params: { path } })),
  });
  const [name, setName] = useState("");
  const refresh = () => queries.invalidateQueries({ queryKey });
  const keep = useMutation({
    mutationFn: () =>
      answer(
        client.PUT("/api/forms/{form_key}/lists", {
          params: { path },
          body: { name: name.trim(), asked: new URLSearchParams(asked).toString() },
        }),
      ),
    onSuccess: () => {
      setName("");
      return refresh();
    },
  });
  const forget = useMutation({
    mutationFn: (gone: string) =>
      answer(
        client.DELETE("/api/forms/{form_key}/lists/{name}", {
          params: { path: { ...path, name: gone } },
        }),
      ),
    onSuccess: refresh,
  });
  function submit(event: FormEvent) {
    event.preventDefault();
    if (name.trim()) keep.mutate();
  }
  return (
    <div className="flex w-full flex-wrap items-center gap-x-4 gap-y-1 border-t border-hairline pt-2">
      <span className="text-muted">My lists:</span>
      {lists.data?.length === 0 && <span className="text-muted italic">none yet</span>}
      {lists.data?.map((one) => (
        <span key={one.name} className="inline-flex items-center">
          <Button
            look="quiet"
            onClick={() =>
              onAsk({ ...EVERYTHING, ...Object.fromEntries(new URLSearchParams(one.asked)) })
            }
          >
            {one.name}
          </Button>
          <Button
            look="quiet"
            aria-label={`Forget the list ${one.name}`}
            onClick={() => forget.mutate(one.name)}
          >
            <X size={14} aria-hidden="true" />
          </Button>
        </span>
      ))}
      <form className="flex items-center gap-2" onSubmit={submit}>
        <label>
          <span className="sr-only">Name for this list</span>
          <input
            className="line-input w-44"
            maxLength={60}
            placeholder="name for this list"
            value={name}
            onChange={(event) => setName(event.target.value)}
          />
        </label>
        <Button type="submit" busy={keep.isPending || name.trim() === ""}>
          Keep this list
        </Button>
      </form>
      <Trouble error={lists.error ?? keep.error ?? forget.error} />
    </div>
  );
}
