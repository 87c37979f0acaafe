// What a impact gave: in all, the values lost, and by rule with bars; and behind each, the records.
import type { Schemas } from "../../api/client";
import { Facet, type Level } from "../../ui/facet";
import { writtenMoment, writtenNumber } from "../../ui/written";
import { words } from "../../words";
import { Behind } from "./behind";

const t = words("releases");

type Impact = Schemas["ImpactView"];
type Counted = Schemas["RecordCountView"];
type RuleImpact = Schemas["RuleImpactView"];
type Shown = { formKey: string; stale: boolean };

const hitBy = ({ newly, harder }: RuleImpact) => newly.count + harder.count;
const NONE: Counted = { count: 0, numbers: [] };

const IN_ALL = [
  ["newly_refused", "save", "block", t("can_be_saved_now_the_draft_would")],
  ["newly_refused", "submit", "block", t("can_be_submitted_now_the_draft_would")],
  ["newly_warned", "save", "warn", t("would_newly_be_warned_of_on_saving")],
  ["newly_warned", "submit", "warn", t("would_newly_be_warned_of_on_submitting")],
  ["no_longer_refused", "submit", "clear", t("cannot_be_submitted_now_the_draft_would")],
] as const;

export function ImpactResult({ impact, at, ...shown }: Shown & { impact: Impact; at: string }) {
  const rules = Object.values(impact.rules).sort((a, b) => hitBy(b) - hitBy(a));
  return (
    <>
      <p className="mt-2 text-muted">
        {t("records_records_compared_on_at_with_release", {
          records: impact.records,
          recordsShown: writtenNumber(impact.records),
          at: writtenMoment(at),
          release: impact.release,
          narrowed: String(Boolean(impact.narrowed)),
        })}
      </p>
      <ul aria-label={t("what_the_draft_means_for_them")} className="mt-3 border-t border-edge">
        {IN_ALL.map(([what, moment, level, words]) => (
          <Count
            key={words}
            {...shown}
            what={what}
            of={moment}
            level={level}
            words={words}
            found={impact[what][moment] ?? NONE}
          />
        ))}
        {Object.values(impact.lost).map(({ key, label, records }) => (
          <Count
            key={key}
            {...shown}
            what="lost"
            of={key}
            level="warn"
            words={t("would_lose_what_they_hold_in_label", { label })}
            found={records}
          />
        ))}
      </ul>
      {rules.length > 0 ? (
        <ByRule {...shown} rules={rules} records={impact.records} />
      ) : (
        <p className="mt-3 text-muted">{t("no_rule_is_violated_by_other_records")}</p>
      )}
    </>
  );
}

type CountProps = Shown & {
  what: Parameters<typeof Behind>[0]["what"];
  of: string;
  level: Level;
  words: string;
  found: Counted;
};

function Count({ level, words, found, ...shown }: CountProps) {
  return (
    <li className="border-b border-hairline py-1.5">
      <span className="flex items-center gap-2">
        <span className="w-16 text-right font-serif text-xl">{writtenNumber(found.count)}</span>
        <Facet level={found.count > 0 ? level : "clear"} size={14} /> {words}
      </span>
      <Behind {...shown} found={found} />
    </li>
  );
}

type ByRuleProps = Shown & { rules: RuleImpact[]; records: number };

function ByRule({ rules, records, ...shown }: ByRuleProps) {
  return (
    <section aria-labelledby="by-rule-title" className="mt-6">
      <h3 id="by-rule-title" className="text-xl">
        {t("by_rule")}
      </h3>
      <ul className="mt-1 border-t border-edge">
        {rules.map((one) => {
          const of = t("of_records", { records: writtenNumber(records) });
          const said = [
            [
              "newly",
              "bg-madder/60",
              t("newly_violated_by_newly_of_one", {
                newly: written(one.newly),
                of,
                one: stopsIn(one),
              }),
            ],
            [
              "harder",
              "bg-ochre/60",
              t("violated_as_before_by_harder_and_told", {
                harder: written(one.harder),
                isCount: String(Boolean(one.newly.count > 0)),
                one: stopsIn(one),
              }),
            ],
            [
              "no_longer",
              "bg-moss/60",
              t("no_longer_violated_by_no_longer", { no_longer: written(one.no_longer) }),
            ],
          ] as const;
          return (
            <li key={one.rule} className="border-b border-hairline py-2">
              <p className="font-semibold">{one.name}</p>
              {said
                .filter(([what]) => one[what].count > 0)
                .map(([what, look, words]) => (
                  <div key={what}>
                    <Bar words={words} share={one[what].count / Math.max(1, records)} look={look} />
                    <Behind {...shown} what={what} of={one.rule} found={one[what]} />
                  </div>
                ))}
            </li>
          );
        })}
      </ul>
    </section>
  );
}

const written = ({ count }: Counted) => writtenNumber(count);

function stopsIn({ stops }: RuleImpact) {
  return t("rule_stops", {
    save: stops.save ?? 0,
    saveShown: writtenNumber(stops.save ?? 0),
    submit: stops.submit ?? 0,
    submitShown: writtenNumber(stops.submit ?? 0),
  });
}

function Bar({ words, share, look }: { words: string; share: number; look: string }) {
  return (
    <div className="mt-1 grid grid-cols-[minmax(0,1fr)_16rem] items-center gap-3">
      <span>{words}</span>
      <span aria-hidden="true" className="h-3 border border-edge">
        <span
          className={`block h-full ${look}`}
          style={{ width: `${Math.max(2, share * 100)}%` }}
        />
      </span>
    </div>
  );
}
