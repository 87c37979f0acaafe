// One rule told apart: by person, entry point, moment and release, with the reasons for going past.
import type { Schemas } from "../../api/client";
import { counted } from "../../ui/counts";
import { Trouble } from "../../ui/trouble";
import { writtenDay } from "../../ui/written";
import { words } from "../../words";
import { wayWords } from "../form/entry-points";
import { Leads } from "./leads";
import { type Asked, type RuleWatch, timesIn, useRuleDetails, type Watch } from "./queries";

const t = words("watch");

type Part = Schemas["RuleCountShare"];
type Props = { formKey: string; rule: RuleWatch; watch: Watch; asked: Asked };

export function Apart({ formKey, rule, watch, asked }: Props) {
  const details = useRuleDetails(formKey, rule.rule, asked, true);
  const { data } = details;
  const spoke = watch.periods
    .map(({ begins }, place) => ({ begins, counts: rule.by_period[place] }))
    .filter(({ counts }) => counts && timesIn(counts) > 0);
  return (
    <section
      aria-label={t("name_told_apart", { name: rule.name })}
      className="mt-3 border-l-4 border-thistle bg-leaf px-5 py-3"
    >
      <div className="flex flex-wrap items-baseline gap-x-6">
        <h4 className="font-semibold">{rule.name}</h4>
        <Leads formKey={formKey} rule={rule.rule} />
      </div>
      <Trouble error={details.error} />
      {data && (
        <div className="mt-2 grid grid-cols-1 gap-x-8 gap-y-3 text-sm md:grid-cols-2">
          <Parts title={t("by_whom")} parts={data.by_person} />
          <Parts
            title={t("where")}
            parts={data.by_entry_point}
            words={(entry_point) => wayWords(entry_point as Parameters<typeof wayWords>[0])}
          />
          <Parts
            title={t("when")}
            parts={data.by_moment}
            words={(moment) => (moment === "save" ? t("on_saving") : t("on_submitting"))}
          />
          <Parts
            title={t("under")}
            parts={data.by_release}
            words={(number) => t("release_number", { number })}
          />
          <div>
            <h5 className="text-muted">{t("reasons_given_for_it")}</h5>
            {data.reasons.length === 0 && <p>{t("none_was_given")}</p>}
            <ul>
              {data.reasons.map(({ text, times }) => (
                <li key={text}>
                  “{text}” <span className="text-muted">{counted(times, "time")}</span>
                </li>
              ))}
            </ul>
          </div>
          <details>
            <summary className="w-fit cursor-pointer text-thistle">{t("as_a_table")}</summary>
            <Table caption={watch.weekly ? t("week_of") : "Day"}>
              {spoke.map(({ begins, counts }) => (
                <Line key={begins} name={writtenDay(begins)} counts={counts} />
              ))}
            </Table>
          </details>
        </div>
      )}
    </section>
  );
}

type PartsProps = { title: string; parts: readonly Part[]; words?: (name: string) => string };

function Parts({ title, parts, words = (name) => name }: PartsProps) {
  return (
    <div>
      <Table caption={title}>
        {parts.map(({ name, counts }) => (
          <Line key={name} name={words(name) || t("nobody_in_person")} counts={counts} />
        ))}
      </Table>
    </div>
  );
}

function Table({ caption, children }: { caption: string; children: React.ReactNode }) {
  return (
    <table className="w-full">
      <thead>
        <tr className="text-left text-muted *:pr-2 *:font-normal">
          <th scope="col">{caption}</th>
          <th scope="col">{t("noted")}</th>
          <th scope="col">{t("warned")}</th>
          <th scope="col">{t("blocked")}</th>
          <th scope="col">{t("went_on")}</th>
        </tr>
      </thead>
      <tbody>{children}</tbody>
    </table>
  );
}

function Line({ name, counts }: { name: string; counts: Part["counts"] | undefined }) {
  if (!counts) return null;
  return (
    <tr className="border-t border-hairline *:pr-2">
      <td>{name}</td>
      <td>{counts.noted}</td>
      <td>{counts.warned}</td>
      <td>{counts.blocked}</td>
      <td>{counts.passed}</td>
    </tr>
  );
}
