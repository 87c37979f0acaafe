// Every rule in a small picture of its own, all to one scale; each leads to the records and the rule.
import { Fragment, useState } from "react";
import { LabelledSelect } from "../../ui/labelled-select";
import { writtenDay } from "../../ui/written";
import { words } from "../../words";
import { Apart } from "./apart";
import { Bars } from "./bars";
import {
  type Asked,
  goneBy,
  inWords,
  percent,
  type RuleWatch,
  timesIn,
  type Watch,
} from "./queries";

const t = words("watch");

const SHOWN = {
  loud: t("those_that_spoke"),
  silent: t("those_that_never_spoke"),
  waved: t("those_always_acknowledged"),
  all: t("all_rules"),
};
type Shown = keyof typeof SHOWN;

const FITS: Record<Shown, (rule: RuleWatch) => boolean> = {
  loud: ({ total }) => timesIn(total) > 0,
  silent: ({ silent }) => silent,
  waved: ({ waved_through }) => waved_through,
  all: () => true,
};

type Props = { formKey: string; watch: Watch; asked: Asked };

export function Rules({ formKey, watch, asked }: Props) {
  const [shown, setShown] = useState<Shown>("loud");
  const [open, setOpen] = useState<string | null>(null);
  const rules = watch.rules.filter(FITS[shown]).sort((a, b) => timesIn(b.total) - timesIn(a.total));
  const most = Math.max(1, ...watch.rules.flatMap(({ by_period }) => by_period.map(timesIn)));
  return (
    <section aria-labelledby="rules-title" className="mt-6">
      <div className="flex flex-wrap items-baseline gap-x-4">
        <h3 id="rules-title" className="text-xl">
          {t("by_rule")}
        </h3>
        <LabelledSelect
          label={t("showing")}
          value={shown}
          options={(Object.keys(SHOWN) as Shown[]).map((one) => [
            one,
            `${SHOWN[one]} (${watch.rules.filter(FITS[one]).length})`,
          ])}
          onChange={(next) => setShown(next as Shown)}
        />
        <span className="text-sm text-muted">
          {t("open_is_noted_hatched_is_warned_filled", { most })}
        </span>
      </div>
      {rules.length === 0 && <p className="py-4 text-muted">{t("there_is_none")}</p>}
      <ul className="mt-2 grid grid-cols-1 gap-x-8 md:grid-cols-2 lg:grid-cols-3">
        {rules.map((rule) => (
          <Fragment key={rule.rule}>
            <Small
              rule={rule}
              watch={watch}
              most={most}
              open={open === rule.rule}
              onOpen={() => setOpen(open === rule.rule ? null : rule.rule)}
            />
            {open === rule.rule && (
              <li className="col-span-full">
                <Apart formKey={formKey} rule={rule} watch={watch} asked={asked} />
              </li>
            )}
          </Fragment>
        ))}
      </ul>
    </section>
  );
}

type SmallProps = {
  rule: RuleWatch;
  watch: Watch;
  most: number;
  open: boolean;
  onOpen: () => void;
};

function Small({ rule, watch, most, open, onOpen }: SmallProps) {
  const { total, name, by_period, last } = rule;
  const tried = watch.periods.reduce((sum, one) => sum + one.tried, 0);
  const rows = watch.periods.map(({ begins }, place) => ({
    begins,
    noted: by_period[place]?.noted ?? 0,
    warned: by_period[place]?.warned ?? 0,
    blocked: by_period[place]?.blocked ?? 0,
  }));
  const times = timesIn(total);
  return (
    <li className="border-b border-hairline py-2">
      <p className="font-semibold">
        {name}
        {!rule.in_force && (
          <span className="font-normal text-muted"> {t("no_longer_in_force")}</span>
        )}
      </p>
      {times > 0 ? (
        <Bars
          label={`${name}: ${inWords(total)}`}
          rows={rows}
          levels={["blocked", "warned", "noted"]}
          most={most}
          marks={watch.releases.map(({ number, since }) => ({
            at: since,
            words: t("release_number", { number }),
          }))}
          width={330}
          height={46}
        />
      ) : null}
      <p className="text-sm text-muted">
        {t("rule_in_short", {
          counts: inWords(total),
          times,
          share: percent(times, tried),
          waived: goneBy(total) ? "true" : "false",
          by: goneBy(total) ?? "",
          dated: String(Boolean(last)),
          last: last ? writtenDay(last) : "",
          routine: String(Boolean(rule.waved_through)),
        })}
      </p>
      {times > 0 && (
        <button
          type="button"
          aria-expanded={open}
          aria-label={t("tell_name_apart", { name })}
          className="text-sm text-thistle hover:underline"
          onClick={onOpen}
        >
          {t("by_whom_where_and_why")}
        </button>
      )}
    </li>
  );
}
