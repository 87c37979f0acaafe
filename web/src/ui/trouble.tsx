// What went wrong and how to mend it, in the server's words.
import { Refused, type Schemas } from "../api/client";

export function Trouble({ error }: { error: unknown }) {
  if (!error) return null;
  const problem = error instanceof Refused ? error.problem : null;
  return (
    <div role="alert" className="border-l-4 border-madder bg-tint px-3 py-2">
      <p className="font-semibold">{problem?.title ?? "The server cannot be reached."}</p>
      <p>{problem?.detail ?? "It is being tried again; nothing on your screen is lost."}</p>
      {problem && <ProblemList items={problem.errors} />}
    </div>
  );
}

export function ProblemList({ items }: { items: Schemas["ProblemItem"][] }) {
  if (items.length === 0) return null;
  return (
    <ul className="mt-1 list-[square] pl-5">
      {items.map((item) => (
        <li key={`${item.place}-${item.message}`}>
          {item.message} <span className="text-muted">{item.remedy}</span>
        </li>
      ))}
    </ul>
  );
}
