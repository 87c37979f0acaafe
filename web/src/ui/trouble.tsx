// What went wrong and how to correct it, in the server's words.
import { Refused, type Schemas } from "../api/client";
import { words } from "../words";

const t = words("ui");

export function Trouble({ error }: { error: unknown }) {
  if (!error) return null;
  if (error instanceof Refused) return <Problems {...error.problem} />;
  return (
    <Problems
      title={t("the_server_cannot_be_reached")}
      detail={t("nothing_on_your_screen_is_lost_try")}
      errors={[]}
    />
  );
}

type ProblemsProps = { title: string; detail: string; errors?: Schemas["ProblemItem"][] };

export function Problems({ title, detail, errors = [] }: ProblemsProps) {
  return (
    <div role="alert" className="border-l-4 border-madder bg-tint px-3 py-2">
      <p className="font-semibold">{title}</p>
      <p>{detail}</p>
      <ProblemList items={errors} placed />
    </div>
  );
}

/** What people call the parts of a document; blank where what is said needs no place. */
const CALLED: Record<string, string> = {
  targets: t("what_it_is_about"),
  when: t("its_condition"),
  must: t("what_must_be_true"),
  no_other: t("what_no_other_record_may_have"),
  until: t("what_it_waits_for"),
  sets: t("what_it_proposes"),
  rows: t("its_list"),
  values: t("its_values"),
  governor: t("what_its_values_depend_on"),
  severity: t("how_hard_it_speaks"),
  scope: t("where_it_counts"),
  lower: t("its_lowest_value"),
  upper: t("its_highest_value"),
  described: t("what_the_pattern_means"),
  purpose: t("what_it_is_for"),
  password: "",
  name: t("its_name"),
  body: "",
  plan: t("how_it_is_read"),
};

/** The part of a place that people know: “label” of “field.text.label”. */
function placeWords(place: string) {
  const words = place.split(".").filter((part) => !/^\d+$/.test(part));
  const last = words.at(-1) ?? "";
  const part = last === "value" ? (words.at(-2) ?? last) : last;
  return CALLED[part] ?? part.replaceAll("_", " ");
}

type Props = { items: Schemas["ProblemItem"][]; placed?: boolean };

export function ProblemList({ items, placed = false }: Props) {
  if (items.length === 0) return null;
  return (
    <ul className="mt-1 list-[square] pl-5">
      {items.map((item) => (
        <li key={`${item.place}-${item.message}`}>
          {placed && placeWords(item.place) && (
            <span className="font-semibold">{placeWords(item.place)}: </span>
          )}
          {item.message} <span className="text-muted">{item.remedy}</span>
        </li>
      ))}
    </ul>
  );
}
