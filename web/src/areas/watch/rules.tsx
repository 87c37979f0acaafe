// Every rule in a small picture of its own, all to one scale; each leads to the records and the rule.
import { Fragment, useState } from "react";
import { LabelledSelect } from "../../ui/labelled-select";
import { writtenDay } from "../../ui/written";
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

const SHOWN = {
  loud: "those that spoke",
  silent: "those that never spoke",
  waved: "those always acknowledged",
  all: "all rules",
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
          By rule
        </h3>
        <LabelledSelect
          label="Showing"
          value={shown}
          options={(Object.keys(SHOWN) as Shown[]).map((one) => [
            one,
            `${SHOWN[one]} (${watch.rules.filter(FITS[one]).length})`,
          ])}
          onChange={(next) => setShown(next as Shown)}
        />
        <span className="text-sm text-muted">
          Open is noted, hatched is warned, filled is blocked; the same scale for all, up to {most}.
        </span>
      </div>
      {rules.length === 0 && <p className="py-4 text-muted">There is none.</p>}
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
        {!rule.in_force && <span className="font-normal text-muted"> (no longer in force)</span>}
      </p>
      {times > 0 ? (
        <Bars
          label={`${name}: ${inWords(total)}`}
          rows={rows}
          levels={["blocked", "warned", "noted"]}
          most={most}
          marks={watch.releases.map(({ number, since }) => ({
            at: since,
            words: `release ${number}`,
          }))}
          width={330}
          height={46}
        />
      ) : null}
      <p className="text-sm text-muted">
        {inWords(total)}
        {times > 0 && ` (${percent(times, tried)} of all tries)`}
        {goneBy(total) && `; ${goneBy(total)}`}
        {last && `; last on ${writtenDay(last)}`}
        {rule.waved_through && "; nearly everybody waves it through"}
      </p>
      {times > 0 && (
        <button
          type="button"
          aria-expanded={open}
          aria-label={`Tell “${name}” apart`}
          className="text-sm text-thistle hover:underline"
          onClick={onOpen}
        >
          by whom, where and why
        </button>
      )}
    </li>
  );
}
