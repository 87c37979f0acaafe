// What a impact gave: in all, the values lost, and by rule with bars; and behind each, the records.
import type { Schemas } from "../../api/client";
import { counted } from "../../ui/counts";
import { Facet, type Level } from "../../ui/facet";
import { writtenMoment, writtenNumber } from "../../ui/written";
import { Behind } from "./behind";

type Impact = Schemas["ImpactView"];
type Counted = Schemas["RecordCountView"];
type RuleImpact = Schemas["RuleImpactView"];
type Shown = { formKey: string; stale: boolean };

const hitBy = ({ newly, harder }: RuleImpact) => newly.count + harder.count;
const NONE: Counted = { count: 0, numbers: [] };

const IN_ALL = [
  ["newly_refused", "save", "block", "can be saved now; the draft would refuse them"],
  ["newly_refused", "submit", "block", "can be submitted now; the draft would refuse them"],
  ["newly_warned", "save", "warn", "would newly be warned of on saving"],
  ["newly_warned", "submit", "warn", "would newly be warned of on submitting"],
  ["no_longer_refused", "submit", "clear", "cannot be submitted now; the draft would accept them"],
] as const;

export function ImpactResult({ impact, at, ...shown }: Shown & { impact: Impact; at: string }) {
  const rules = Object.values(impact.rules).sort((a, b) => hitBy(b) - hitBy(a));
  return (
    <>
      <p className="mt-2 text-muted">
        {counted(impact.records, "record")}, compared on {writtenMoment(at)} with release{" "}
        {impact.release}
        {impact.narrowed ? ". Only what differs was asked of every one." : "."}
      </p>
      <ul aria-label="What the draft means for them" className="mt-3 border-t border-edge">
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
            words={`would lose what they hold in ${label} when they are next saved`}
            found={records}
          />
        ))}
      </ul>
      {rules.length > 0 ? (
        <ByRule {...shown} rules={rules} records={impact.records} />
      ) : (
        <p className="mt-3 text-muted">
          No rule is violated by other records than before, or told of harder.
        </p>
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
        By rule
      </h3>
      <ul className="mt-1 border-t border-edge">
        {rules.map((one) => {
          const of = `of ${writtenNumber(records)}`;
          const said = [
            [
              "newly",
              "bg-madder/60",
              `newly violated by ${written(one.newly)} ${of}${stopsIn(one)}`,
            ],
            [
              "harder",
              "bg-ochre/60",
              `violated as before by ${written(one.harder)}, and told of harder${one.newly.count > 0 ? "" : stopsIn(one)}`,
            ],
            ["no_longer", "bg-moss/60", `no longer violated by ${written(one.no_longer)}`],
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
  const said = [
    stops.save ? `stops ${writtenNumber(stops.save)} on saving` : "",
    stops.submit ? `${writtenNumber(stops.submit)} on submitting` : "",
  ].filter(Boolean);
  if (said.length === 0) return "; it stops none of them";
  return `; it ${stops.save ? "" : "stops "}${said.join(", ")}`;
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
