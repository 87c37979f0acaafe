// What was done, by whom, when and why, newest first; what it changed stands behind each act.
import type { Schemas } from "../../api/client";
import { writtenMoment } from "../../ui/written";
import { words } from "../../words";

const t = words("history");

type Act = Schemas["HistoryEntryView"];

export function Acts({ acts }: { acts: readonly Act[] }) {
  return (
    <table className="mt-3 w-full border-t border-edge">
      <thead>
        <tr className="border-b border-hairline text-left text-muted *:py-1.5 *:pr-4 *:font-normal">
          <th scope="col">{t("when")}</th>
          <th scope="col">{t("what_happened")}</th>
        </tr>
      </thead>
      <tbody>
        {acts.map((act) => (
          <tr key={act.id} className="border-b border-hairline align-top *:py-1.5 *:pr-4">
            <td className="whitespace-nowrap text-muted">{writtenMoment(act.at)}</td>
            <td className="w-full">
              {act.sentence}
              {act.note && <span className="block text-sm text-muted">{act.note}</span>}
              {act.taken_back && (
                <span className="block text-sm text-muted">{t("taken_back_since")}</span>
              )}
              <WhatChanged details={act.details} />
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

const SHOWN_AT_ONCE = 2;

function WhatChanged({ details }: { details: Act["details"] }) {
  if (details.length === 0) return null;
  const list = (
    <dl className="text-sm">
      {details.map(({ what, before, after }) => (
        <div key={`${what} ${before} ${after}`}>
          <dt className="inline text-muted">{what}: </dt>
          <dd className="inline">
            {before && <del className="text-muted decoration-madder/60">{before}</del>}
            {before && (after ? " → " : "")}
            {after && <ins className="no-underline">{after}</ins>}
          </dd>
        </div>
      ))}
    </dl>
  );
  if (details.length <= SHOWN_AT_ONCE) return list;
  return (
    <details>
      <summary className="w-fit cursor-pointer text-sm text-thistle">
        {t("length_properties", { length: details.length })}
      </summary>
      {list}
    </details>
  );
}
