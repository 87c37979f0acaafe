// Watch: how the rules in force fare at work, over time and from release to release.
import { useRef } from "react";
import { useParams } from "react-router";
import { useAddress } from "../../ui/address";
import { DayInput } from "../../ui/day-input";
import { LabelledSelect } from "../../ui/labelled-select";
import { Page } from "../../ui/page";
import { Trouble } from "../../ui/trouble";
import { writtenDay, writtenNumber } from "../../ui/written";
import { words } from "../../words";
import { wayWords } from "../form/entry-points";
import { useForm } from "../form/form";
import { Bars } from "./bars";
import { Effects } from "./effects";
import { Holds } from "./holds";
import { type Asked, percent, USUAL, useWatch, type Watch } from "./queries";
import { Rules } from "./rules";

const t = words("watch");

export function WatchPage() {
  const { formKey = "" } = useParams();
  const form = useForm().data;
  const [asked, ask] = useAddress(USUAL);
  const watch = useWatch(formKey, asked);
  const { data } = watch;
  // Where a wish cannot be met it still stands there, to be corrected.
  const known = useRef(data);
  known.current = data ?? known.current;
  const tried = data?.periods.reduce((sum, one) => sum + one.tried, 0) ?? 0;
  return (
    <Page title={t("watch")} of={form?.name} className="mx-auto w-full max-w-6xl px-6 py-5">
      {(known.current || watch.isError) && (
        <Narrowing watch={known.current} asked={asked} ask={ask} />
      )}
      <Trouble error={watch.error} />
      {data && tried === 0 && (
        <p className="mt-3 border-t border-hairline py-6 text-muted">
          {t("no_record_was_saved_or_submitted_in")}
        </p>
      )}
      {data && tried > 0 && (
        <>
          <Attempts watch={data} />
          <Rules formKey={formKey} watch={data} asked={asked} />
          <div className="mt-8 grid grid-cols-1 gap-10 lg:grid-cols-[minmax(0,3fr)_minmax(0,2fr)]">
            <Effects formKey={formKey} watch={data} />
            <Holds formKey={formKey} holds={data.holds} />
          </div>
        </>
      )}
    </Page>
  );
}

type NarrowingProps = {
  watch: Watch | undefined;
  asked: Asked;
  ask: (next: Partial<Asked>) => void;
};

function Narrowing({ watch, asked, ask }: NarrowingProps) {
  return (
    <div className="flex flex-wrap items-baseline gap-x-4 gap-y-2">
      <DayInput
        label={t("from")}
        labelShown
        className="line-input w-40"
        placeholder={watch && writtenDay(watch.since)}
        value={asked.since}
        onChange={(since) => ask({ since })}
      />
      <DayInput
        label={t("to")}
        labelShown
        className="line-input w-40"
        placeholder={watch && writtenDay(watch.until)}
        value={asked.until}
        onChange={(until) => ask({ until })}
      />
      <LabelledSelect
        label={t("under_2")}
        none={t("every_release")}
        value={asked.release}
        options={(watch?.releases ?? []).map(({ number }) => [
          String(number),
          t("release_number", { number }),
        ])}
        onChange={(release) => ask({ release })}
      />
      <LabelledSelect
        label={t("by")}
        none={t("everybody")}
        value={asked.person}
        options={(watch?.people ?? []).map(({ username, name }) => [username, name])}
        onChange={(person) => ask({ person })}
      />
      <LabelledSelect
        label={t("came")}
        none={t("any_way")}
        value={asked.entry_point}
        options={(watch?.entry_points ?? []).map((entry_point) => [
          entry_point,
          wayWords(entry_point as Parameters<typeof wayWords>[0]),
        ])}
        onChange={(entry_point) => ask({ entry_point })}
      />
    </div>
  );
}

function Attempts({ watch }: { watch: Watch }) {
  const tried = watch.periods.reduce((sum, one) => sum + one.tried, 0);
  const stopped = watch.periods.reduce((sum, one) => sum + one.stopped, 0);
  const rows = watch.periods.map(({ begins, tried, stopped }) => ({
    begins,
    stopped,
    tried: tried - stopped,
  }));
  const every = watch.weekly ? "week" : "day";
  return (
    <section aria-labelledby="attempts-title" className="mt-4">
      <h3 id="attempts-title" className="text-xl">
        {t("tried_tries_to_save_or_submit_stopped", {
          tried,
          triedShown: writtenNumber(tried),
          stopped: writtenNumber(stopped),
          stopped2: percent(stopped, tried),
        })}
      </h3>
      <Bars
        label={t("tries_by_every_tried_in_all_stopped", { every, tried, stopped })}
        rows={rows}
        levels={["stopped", "tried"]}
        most={Math.max(...watch.periods.map((one) => one.tried))}
        marks={watch.releases.map(({ number, since }) => ({
          at: since,
          words: t("release_number", { number }),
        }))}
        width={1100}
        height={150}
        large
      />
      <p className="text-sm text-muted">{t("by_every_filled_is_stopped_open_went", { every })}</p>
      <details className="text-sm">
        <summary className="w-fit cursor-pointer text-thistle">{t("as_a_table")}</summary>
        <table className="mt-1 border-t border-edge">
          <thead>
            <tr className="text-left text-muted *:pr-6 *:font-normal">
              <th scope="col">{watch.weekly ? t("week_of") : t("day")}</th>
              <th scope="col">{t("tried")}</th>
              <th scope="col">{t("stopped")}</th>
            </tr>
          </thead>
          <tbody>
            {watch.periods.map((one) => (
              <tr key={one.begins} className="border-t border-hairline *:pr-6">
                <td>{writtenDay(one.begins)}</td>
                <td>{one.tried}</td>
                <td>{one.stopped}</td>
              </tr>
            ))}
          </tbody>
        </table>
      </details>
    </section>
  );
}
