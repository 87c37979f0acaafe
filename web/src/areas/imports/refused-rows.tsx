// Rows that are refused, with the reasons at their columns.
import type { Schemas } from "../../api/client";
import { words } from "../../words";

const t = words("imports");

type Row = Schemas["RejectedRowView"];

export function RefusedRows({ rows, label }: { rows: readonly Row[]; label: string }) {
  return (
    <table aria-label={label} className="mt-2 w-full border-t border-b border-edge">
      <thead className="text-left text-muted">
        <tr className="border-b border-hairline *:px-2 *:py-1 *:font-normal">
          <th scope="col" className="w-16 text-right">
            {t("row")}
          </th>
          <th scope="col">{t("what_is_to_be_corrected")}</th>
        </tr>
      </thead>
      <tbody>
        {rows.map(({ row, said }) => (
          <tr key={row} className="border-t border-hairline align-top *:px-2 *:py-1">
            <th scope="row" className="text-right font-normal tabular-nums">
              {row}
            </th>
            <td>
              {said.map(({ head, text }) => (
                <p key={`${head} ${text}`}>
                  {head && <span className="text-muted">{head}: </span>}
                  {text}
                </p>
              ))}
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}
