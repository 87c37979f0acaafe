// The records of a form: how far each has come, and what it violates.

import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { Plus } from "lucide-react";
import { useState } from "react";
import { Link, useParams } from "react-router";
import { answer, client, type Schemas } from "../../api/client";
import { keys } from "../../api/keys";
import { useMay } from "../../api/session";
import { useAddress } from "../../ui/address";
import { Button } from "../../ui/button";
import { Facet, LEVEL_COLOUR } from "../../ui/facet";
import { Page } from "../../ui/page";
import { Trouble } from "../../ui/trouble";
import { writtenDay, writtenNumber } from "../../ui/written";
import { words } from "../../words";
import { useForm } from "../form/form";
import { levelOf } from "../form/outcomes";
import { type Asked, columnsIn, EVERYTHING, fileAddress, queryOf, STATE_WORDS } from "./asking";
import { Chosen, Export, MOST_CHOSEN } from "./chosen";
import { Filters } from "./filters";
import { deskQuery } from "./queries";

const t = words("records");

type Summary = Schemas["RecordSummary"];
export const PAGE = 50;

export function RecordsPage() {
  const { formKey = "" } = useParams();
  const mayWrite = useMay("write_records");
  const form = useForm().data;
  // The choices stand in the address, so that the list keeps its place when one comes back.
  const [asked, change] = useAddress(EVERYTHING);
  const query = queryOf(asked);
  const offset = query.offset ?? 0;
  const records = useQuery({
    queryKey: keys.recordList(formKey, query),
    queryFn: ({ signal }) =>
      answer(
        client.GET("/api/v1/forms/{form_key}/records", {
          params: { path: { form_key: formKey }, query },
          signal,
        }),
      ),
    placeholderData: keepPreviousData,
  });
  const desk = useQuery({ ...deskQuery(formKey), retry: false }).data;
  const ask = (part: Partial<Asked>) => change({ offset: "", ...part });
  const { total, more } = records.data ?? { total: 0, more: false };
  const [chosen, setChosen] = useState<readonly Summary[]>([]);
  // As they are listed now: what was decided on meanwhile is another version.
  const listed = new Map(records.data?.records.map((record) => [record.number, record]));
  const standing = chosen.map((one) => listed.get(one.number) ?? one);
  return (
    <Page title={t("records")} of={form?.name} className="mx-auto w-full max-w-7xl px-6 py-5">
      <div className="mb-3 flex flex-wrap items-center gap-x-4 gap-y-3">
        <Filters formKey={formKey} asked={asked} desk={desk} onAsk={ask} />
        <span className="mr-auto text-muted">
          {records.data &&
            t("how_many", { more: String(more), count: total, shown: writtenNumber(total) })}
        </span>
        {mayWrite && (
          <Link
            to="new"
            className="inline-flex min-h-8 items-center gap-1.5 rounded-xs bg-thistle px-3 text-on-thistle"
          >
            <Plus size={18} aria-hidden="true" /> {t("new_record")}
          </Link>
        )}
      </div>
      <Trouble error={records.error} />
      <Chosen
        formKey={formKey}
        chosen={standing}
        fileOf={(how) =>
          fileAddress(
            formKey,
            { order: query.order },
            how,
            standing.map(({ number }) => number),
          )
        }
        onNone={() => setChosen([])}
      />
      {records.data && (
        <Listing
          records={records.data.records}
          chosen={new Set(chosen.map(({ number }) => number))}
          onChoose={(some, take) => {
            const others = chosen.filter((one) => !some.some((it) => it.number === one.number));
            setChosen(take ? [...others, ...some].slice(0, MOST_CHOSEN) : others);
          }}
          columns={columnsIn(asked.columns)}
          labelOf={(key) => desk?.fields.find((field) => field.key === key)?.label ?? key}
        />
      )}
      <div className="mt-3 flex items-center gap-2">
        {offset > 0 && (
          <Button onClick={() => ask({ offset: String(Math.max(0, offset - PAGE)) })}>
            {t("newer_ones")}
          </Button>
        )}
        {(more || offset + PAGE < total) && (
          <Button onClick={() => ask({ offset: String(offset + PAGE) })}>{t("older_ones")}</Button>
        )}
        {total > 0 && (
          <span className="ml-auto">
            <Export
              what={t("export_all", {
                count: total,
                more: String(more),
                shown: writtenNumber(total),
              })}
              fileOf={(how) => fileAddress(formKey, query, how)}
            />
          </span>
        )}
      </div>
    </Page>
  );
}

type ListingProps = {
  records: Summary[];
  columns: string[];
  chosen: ReadonlySet<number>;
  onChoose: (records: readonly Summary[], take: boolean) => void;
  labelOf: (key: string) => string;
};

function Listing({ records, columns, chosen, onChoose, labelOf }: ListingProps) {
  if (records.length === 0)
    return (
      <p className="border-t border-hairline py-6 text-muted">
        {t("no_record_fits_clear_the_search_and")}
      </p>
    );
  return (
    <table className="w-full border-t border-b border-edge">
      <thead className="text-left text-muted">
        <tr className="border-b border-hairline *:px-2 *:py-1.5 *:font-normal">
          <th scope="col" className="w-8">
            <input
              type="checkbox"
              aria-label={t("choose_all_that_are_listed_here")}
              className="size-4 accent-thistle"
              checked={records.every(({ number }) => chosen.has(number))}
              onChange={(event) => onChoose(records, event.target.checked)}
            />
          </th>
          <th scope="col" className="w-12 text-right">
            {t("no")}
          </th>
          <th scope="col">{t("record")}</th>
          {columns.map((key) => (
            <th key={key} scope="col">
              {labelOf(key)}
            </th>
          ))}
          <th scope="col">{t("state")}</th>
          <th scope="col">{t("outcome")}</th>
          <th scope="col">{t("judged_by")}</th>
          <th scope="col">{t("last_stored")}</th>
        </tr>
      </thead>
      <tbody>
        {records.map((record) => (
          <tr key={record.number} className="border-b border-hairline align-top *:px-2 *:py-1.5">
            <td>
              <input
                type="checkbox"
                aria-label={t("choose_record_number", { number: record.number })}
                className="mt-1 size-4 accent-thistle"
                checked={chosen.has(record.number)}
                onChange={(event) => onChoose([record], event.target.checked)}
              />
            </td>
            <td className="text-right">{record.number}</td>
            <th scope="row" className="text-left">
              <Link to={String(record.number)} className="text-thistle hover:underline">
                {record.title || t("without_number_or_name")}
              </Link>
            </th>
            {columns.map((key) => (
              <td key={key}>{record.columns[key] ?? ""}</td>
            ))}
            <td>
              {STATE_WORDS[record.state]}
              {record.on_hold && (
                <span className="flex items-center gap-1.5 text-plum">
                  <Facet level="hold" /> {t("on_hold")}
                </span>
              )}
            </td>
            <td>
              <span
                className={`flex items-center gap-1.5 ${LEVEL_COLOUR[levelOf(record.outcome)]}`}
              >
                <Facet level={levelOf(record.outcome)} /> {record.outcome}
              </span>
              {record.violations.length > 0 && (
                <span className="text-sm text-muted">
                  {t("violated_join", {
                    join: record.violations.map((name) => `“${name}”`).join(", "),
                  })}
                </span>
              )}
            </td>
            <td>{t("release_release", { release: record.release })}</td>
            <td className="text-muted">
              {writtenDay(record.changed_at)}
              {record.changed_by && `, ${record.changed_by}`}
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}
