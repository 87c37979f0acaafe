// Which column of a file goes to which field.

import { words } from "../../words";
import type { Plan, Preview } from "./queries";

const t = words("imports");

type Props = { preview: Preview; plan: Plan; onChange: (columns: Plan["columns"]) => void };

const LEFT_OUT = "";
const BY = {
  key: t("by_its_key"),
  label: t("by_its_label"),
  likeness: t("as_it_is_much_like_it"),
} as const;

export function Columns({ preview, plan, onChange }: Props) {
  function send(head: string, target: string) {
    const others = Object.entries(plan.columns).filter(([one]) => one !== head);
    // A field has one column: it goes from where it was.
    const kept = others.filter(([, one]) => one !== target);
    onChange(Object.fromEntries(target === LEFT_OUT ? others : [...kept, [head, target]]));
  }
  return (
    <table className="mt-2 w-full border-t border-b border-edge">
      <thead className="text-left text-muted">
        <tr className="border-b border-hairline *:px-2 *:py-1 *:font-normal">
          <th scope="col">{t("column")}</th>
          <th scope="col">{t("what_stands_there")}</th>
          <th scope="col">{t("goes_to")}</th>
        </tr>
      </thead>
      <tbody>
        {preview.columns.map((column) => {
          const to = plan.columns[column.head] ?? LEFT_OUT;
          return (
            <tr key={column.head} className="border-t border-hairline *:px-2 *:py-1">
              <th scope="row" className="max-w-64 text-left font-normal break-words">
                {column.head}
              </th>
              <td className="max-w-80 truncate text-muted">{column.samples.join(" · ")}</td>
              <td>
                <select
                  aria-label={t("head_goes_to", { head: column.head })}
                  className={`line-input max-w-72 ${to === LEFT_OUT ? "text-muted" : ""}`}
                  value={to}
                  onChange={(event) => send(column.head, event.target.value)}
                >
                  <option value={LEFT_OUT}>{t("nowhere_it_is_left_out")}</option>
                  {preview.entries.map(({ key, label }) => (
                    <option key={key} value={key}>
                      {label}
                    </option>
                  ))}
                  {preview.reasons.map(({ key, label }) => (
                    <option key={key} value={`reason:${key}`}>
                      {t("the_reason_for_label", { label })}
                    </option>
                  ))}
                </select>
                {to !== LEFT_OUT && to === column.to && column.by && (
                  <span className="ml-2 text-sm text-muted">{BY[column.by]}</span>
                )}
              </td>
            </tr>
          );
        })}
      </tbody>
    </table>
  );
}
