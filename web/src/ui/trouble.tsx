// What went wrong and how to mend it, in the server's words.
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

/** The part of a place that people know: “label” of “field.text.label”. */
function placeWords(place: string) {
  const words = place.split(".").filter((part) => !/^\d+$/.test(part));
  return (words.at(-1) ?? "").replaceAll("_", " ");
}

type Props = { items: Schemas["ProblemItem"][]; placed?: boolean };

export function ProblemList({ items, placed = false }: Props) {
  if (items.length === 0) return null;
  return (
    <ul className="mt-1 list-[square] pl-5">
      {items.map((item) => (
        <li key={`${item.place}-${item.message}`}>
          {placed && item.place && (
            <span className="font-semibold">{placeWords(item.place)}: </span>
          )}
          {item.message} <span className="text-muted">{item.remedy}</span>
        </li>
      ))}
    </ul>
  );
}
