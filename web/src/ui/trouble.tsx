// What went wrong and how to correct it, in the server's words.
import { Refused, type Schemas } from "../api/client";

export function Trouble({ error }: { error: unknown }) {
  if (!error) return null;
  if (error instanceof Refused) return <Problems {...error.problem} />;
  return (
    <Problems
      title="The server cannot be reached."
      detail="Nothing on your screen is lost. Try again once the connection is back."
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
  targets: "what it is about",
  when: "its condition",
  must: "what must be true",
  no_other: "what no other record may have",
  until: "what it waits for",
  sets: "what it proposes",
  rows: "its list",
  values: "its values",
  governor: "what its values depend on",
  severity: "how hard it speaks",
  scope: "where it counts",
  lower: "its lowest value",
  upper: "its highest value",
  described: "what the pattern means",
  purpose: "what it is for",
  password: "",
  name: "its name",
  body: "",
  plan: "how it is read",
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
