// The records on hold, by how long they have been.
import { scaleLinear } from "d3-scale";
import { Link } from "react-router";
import { writtenNumber } from "../../ui/written";
import { words } from "../../words";
import type { Watch } from "./queries";

const t = words("watch");

type Hold = Watch["holds"][number];

export function Holds({ formKey, holds }: { formKey: string; holds: Hold[] }) {
  const all = holds.reduce((sum, { records }) => sum + records, 0);
  const width = scaleLinear([0, Math.max(1, ...holds.map(({ records }) => records))], [0, 100]);
  return (
    <section aria-labelledby="holds-title">
      <h3 id="holds-title" className="text-xl">
        {t("on_hold_all", { all: writtenNumber(all) })}
      </h3>
      {all === 0 ? (
        <p className="mt-1 text-muted">{t("no_record_is_on_hold")}</p>
      ) : (
        <>
          <table className="mt-1 w-full border-t border-edge">
            <thead className="sr-only">
              <tr>
                <th scope="col">{t("for_how_long")}</th>
                <th scope="col">{t("records")}</th>
                <th scope="col">{t("to_scale")}</th>
              </tr>
            </thead>
            <tbody>
              {holds.map((one) => (
                <tr key={one.from_days} className="border-b border-hairline *:py-1 *:pr-3">
                  <th scope="row" className="text-left font-normal whitespace-nowrap">
                    {ageWords(one)}
                  </th>
                  <td className="text-right">{writtenNumber(one.records)}</td>
                  <td className="w-1/2" aria-hidden="true">
                    <span
                      className="block h-3 border border-plum bg-plum/30"
                      style={{ width: `${width(one.records)}%` }}
                    />
                  </td>
                </tr>
              ))}
            </tbody>
          </table>
          <Link to={`/forms/${formKey}/records?on_hold=yes&order=changed`} className="underline">
            {t("these_records_longest_untouched_first")}
          </Link>
        </>
      )}
    </section>
  );
}

function ageWords({ from_days, below_days }: Hold) {
  if (below_days === null) return t("from_days_days_and_longer", { from_days });
  return from_days === 0
    ? t("less_than_below_days_days", { below_days })
    : t("from_days_to_below_days_days", { from_days, below_days });
}
