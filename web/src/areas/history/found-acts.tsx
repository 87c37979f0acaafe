// Acts found by who, what, when and words, more of them on demand, all of them as a file.
import { type InfiniteData, useInfiniteQuery } from "@tanstack/react-query";
import { Download } from "lucide-react";
import type { Schemas } from "../../api/client";
import { useAddress } from "../../ui/address";
import { Button } from "../../ui/button";
import { DayInput } from "../../ui/day-input";
import { LabelledSelect } from "../../ui/labelled-select";
import { useSettled } from "../../ui/pointer";
import { SearchBox } from "../../ui/search-box";
import { Trouble } from "../../ui/trouble";
import { dayFrom, writtenNumber } from "../../ui/written";
import { words } from "../../words";
import { Acts } from "./acts";

const t = words("history");

type Page = Schemas["HistoryPage"];
export type Wanted = {
  text?: string;
  act?: string;
  person?: string;
  since?: string;
  until?: string;
  before?: number;
};

const USUAL = { text: "", act: "", person: "", since: "", until: "" };
const ASKED_AFTER = 250; // milliseconds without another letter

type Props = {
  /** Whose history it is, among what is kept of answers. */
  queryKey: readonly unknown[];
  fetch: (wanted: Wanted) => Promise<Page>;
  /** Where the file is. */
  file: string;
};

export function FoundActs({ queryKey, fetch, file }: Props) {
  const [asked, ask] = useAddress(USUAL);
  const text = useSettled(asked.text, ASKED_AFTER);
  const wanted = wantedOf({ ...asked, text });
  const found = useInfiniteQuery<Page, Error, InfiniteData<Page>, unknown[], number | undefined>({
    queryKey: [...queryKey, wanted],
    queryFn: ({ pageParam }) => fetch({ ...wanted, before: pageParam }),
    initialPageParam: undefined,
    getNextPageParam: ({ more, acts }) => (more ? acts.at(-1)?.id : undefined),
    placeholderData: (before) => before,
  });
  const pages = found.data?.pages ?? [];
  const [first] = pages;
  const acts = pages.flatMap((page) => page.acts);
  const query = new URLSearchParams(wanted as Record<string, string>).toString();
  const narrowed = query !== "";
  return (
    <>
      <div className="flex flex-wrap items-end gap-x-4 gap-y-2">
        <SearchBox
          label={t("search_the_history")}
          placeholder={t("search_names_acts_reasons")}
          value={asked.text}
          onChange={(next) => ask({ text: next })}
        />
        <LabelledSelect
          label={t("by")}
          none={t("everybody")}
          value={asked.person}
          options={first?.people.map(({ username, name }) => [username, name]) ?? []}
          onChange={(person) => ask({ person })}
        />
        <LabelledSelect
          label={t("what_2")}
          none={t("everything")}
          value={asked.act}
          options={first?.kinds.map(({ act, words }) => [act, words]) ?? []}
          onChange={(act) => ask({ act })}
        />
        <DayInput
          label={t("from")}
          labelShown
          className="line-input w-32"
          value={asked.since}
          onChange={(since) => ask({ since })}
        />
        <DayInput
          label={t("to")}
          labelShown
          className="line-input w-32"
          value={asked.until}
          onChange={(until) => ask({ until })}
        />
      </div>
      <Trouble error={found.error} />
      {acts.length > 0 && <Acts acts={acts} />}
      {first && acts.length === 0 && (
        <p className="mt-3 border-t border-hairline py-6 text-muted">
          {narrowed ? t("nothing_fits_ask_for_less") : t("nothing_has_been_changed_yet")}
        </p>
      )}
      <div className="mt-3 flex flex-wrap items-center gap-3">
        {found.hasNextPage && (
          <Button busy={found.isFetchingNextPage} onClick={() => found.fetchNextPage()}>
            {t("older_ones")}
          </Button>
        )}
        {acts.length > 0 && (
          <a
            href={query ? `${file}?${query}` : file}
            download
            className="inline-flex min-h-8 items-center gap-1.5 px-3 py-1 text-thistle hover:bg-tint"
          >
            <Download size={16} aria-hidden="true" /> {t("all_of_these_as_a_table_csv")}
          </a>
        )}
      </div>
      {first && first.length > 0 && (
        <p className="mt-3 text-sm text-muted">
          {t.rich("count_acts_in_all_each_bound_to", {
            count: first.length,
            countShown: writtenNumber(first.length),
            code: (chunks) => <code className="break-all">{chunks}</code>,
            head_hash: first.head_hash,
          })}
        </p>
      )}
    </>
  );
}

function wantedOf({ text, act, person, since, until }: typeof USUAL): Wanted {
  return {
    ...(text.trim() && { text: text.trim() }),
    ...(act && { act }),
    ...(person && { person }),
    ...(dayFrom(since) && { since }),
    ...(dayFrom(until) && { until }),
  };
}
