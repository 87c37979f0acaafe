// Acts found by who, what, when and words, more of them on demand, all of them as a file.
import { type InfiniteData, useInfiniteQuery } from "@tanstack/react-query";
import { Download } from "lucide-react";
import type { Schemas } from "../../api/client";
import { useAddress } from "../../ui/address";
import { Button } from "../../ui/button";
import { counted } from "../../ui/counts";
import { DayInput } from "../../ui/day-input";
import { LabelledSelect } from "../../ui/labelled-select";
import { useSettled } from "../../ui/pointer";
import { SearchBox } from "../../ui/search-box";
import { Trouble } from "../../ui/trouble";
import { dayFrom } from "../../ui/written";
import { Acts } from "./acts";

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
          label="Search the history"
          placeholder="Search names, acts, reasons"
          value={asked.text}
          onChange={(next) => ask({ text: next })}
        />
        <LabelledSelect
          label="by"
          none="everybody"
          value={asked.person}
          options={first?.people.map(({ username, name }) => [username, name]) ?? []}
          onChange={(person) => ask({ person })}
        />
        <LabelledSelect
          label="what"
          none="everything"
          value={asked.act}
          options={first?.kinds.map((kind) => [kind, kind]) ?? []}
          onChange={(act) => ask({ act })}
        />
        <DayInput
          label="From"
          labelShown
          className="line-input w-32"
          value={asked.since}
          onChange={(since) => ask({ since })}
        />
        <DayInput
          label="to"
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
          {narrowed ? "Nothing fits. Ask for less." : "Nothing has been changed yet."}
        </p>
      )}
      <div className="mt-3 flex flex-wrap items-center gap-3">
        {found.hasNextPage && (
          <Button busy={found.isFetchingNextPage} onClick={() => found.fetchNextPage()}>
            Older ones
          </Button>
        )}
        {acts.length > 0 && (
          <a
            href={query ? `${file}?${query}` : file}
            download
            className="inline-flex min-h-8 items-center gap-1.5 px-3 py-1 text-thistle hover:bg-tint"
          >
            <Download size={16} aria-hidden="true" /> All of these as a table (CSV)
          </a>
        )}
      </div>
      {first && first.length > 0 && (
        <p className="mt-3 text-sm text-muted">
          {counted(first.length, "act")} in all, each bound to the one before it; none is ever
          changed. The mark of the newest: <code className="break-all">{first.head_hash}</code>
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
