// What is asked of the list of records, as it stands in the address.
import type { Schemas } from "../../api/client";
import { words } from "../../words";

const t = words("records");

type Summary = Schemas["RecordSummary"];
export type Listing = NonNullable<
  import("../../api/schema").paths["/api/v1/forms/{form_key}/records"]["get"]["parameters"]["query"]
>;
export const STATES: Summary["state"][] = ["in_progress", "submitted", "approved", "returned"];
export const STATE_WORDS: Record<Summary["state"], string> = {
  in_progress: t("in_progress"),
  submitted: t("submitted"),
  approved: t("approved"),
  returned: t("returned"),
};
export const OUTCOMES: Summary["outcome"][] = ["clear", "noted", "warned"];
export const ORDERS: Record<NonNullable<Listing["order"]>, string> = {
  "-number": t("newest_first"),
  number: t("oldest_first"),
  title: t("by_name"),
  "-title": t("by_name_from_the_end"),
  "-changed": t("last_stored_first"),
  changed: t("longest_untouched_first"),
};
export const EVERYTHING = {
  search: "",
  state: "",
  outcome: "",
  on_hold: "",
  violates: "",
  keeper: "",
  by: "",
  since: "",
  until: "",
  where: "",
  columns: "",
  order: "-number",
  offset: "",
};
export type Asked = typeof EVERYTHING;

/** Between two conditions in the address, and between the keys of columns. */
const NEXT = "\n";
const ISO_DAY = /^\d{4}-\d{2}-\d{2}$/;

export type Condition = { field: string; relation: string; value: string };
export const RELATIONS = {
  is: t("is"),
  not: t("is_not"),
  from: t("is_at_least"),
  to: t("is_at_most"),
  contains: t("contains"),
  blank: t("is_blank"),
  filled: t("has_a_value"),
};
export const needsValue = (relation: string) => relation !== "blank" && relation !== "filled";

/** The conditions on fields that stand in the address. */
export function conditionsIn(where: string): Condition[] {
  return where
    .split(NEXT)
    .filter(Boolean)
    .map((text) => {
      const [field = "", relation = "is", ...value] = text.split("~");
      return { field, relation, value: value.join("~") };
    });
}

export function whereOf(conditions: readonly Condition[]) {
  return conditions.map(({ field, relation, value }) => `${field}~${relation}~${value}`).join(NEXT);
}

export const columnsIn = (columns: string) => columns.split(",").filter(Boolean);

/** What the server is asked; what makes no sense in the address, or is half said, is not asked. */
export function queryOf(asked: Asked): Listing {
  const whole = conditionsIn(asked.where).filter(
    ({ relation, value }) => !needsValue(relation) || value.trim() !== "",
  );
  const columns = columnsIn(asked.columns);
  return {
    state: STATES.find((state) => state === asked.state),
    outcome: OUTCOMES.find((outcome) => outcome === asked.outcome),
    on_hold: asked.on_hold === "yes" || undefined,
    search: asked.search,
    rule: asked.violates || undefined,
    keeper: asked.keeper || undefined,
    by: asked.by || undefined,
    since: ISO_DAY.test(asked.since) ? asked.since : undefined,
    until: ISO_DAY.test(asked.until) ? asked.until : undefined,
    where: whole.length > 0 ? whole.map((one) => whereOf([one])) : undefined,
    columns: columns.length > 0 ? columns : undefined,
    order: asked.order in ORDERS ? (asked.order as Listing["order"]) : undefined,
    offset: Math.max(0, Math.trunc(Number(asked.offset)) || 0),
  };
}

/** The list of the records of a form that are as `asked`, from the form’s own address. */
export function listAddress(asked: { state?: Summary["state"]; on_hold?: "yes"; keeper: string }) {
  return `records?${new URLSearchParams(asked)}`;
}

export type InFile = { kind: "csv" | "xlsx" | "jsonl"; naming: "labels" | "codes" };

/** The address of a file with the records of a list, or with those chosen in it. */
export function fileAddress(
  formKey: string,
  query: Listing,
  how: InFile,
  numbers: readonly number[] = [],
) {
  const { columns: _shown, offset: _from, ...asked } = { ...query };
  const parts = Object.entries({ ...asked, ...how, numbers }).flatMap(([name, value]) =>
    (Array.isArray(value) ? value : [value])
      .filter((one) => one !== undefined && one !== null && one !== "")
      .map((one) => [name, String(one)]),
  );
  return `/api/v1/forms/${formKey}/record-file?${new URLSearchParams(parts)}`;
}

/** The parts of what is asked that stand under “further filters”. */
const FURTHER = ["violates", "keeper", "by", "since", "until", "where", "columns"] as const;

export const asksFurther = (asked: Asked) => FURTHER.filter((name) => asked[name] !== "").length;
