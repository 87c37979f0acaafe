// Along one field: where saving and submitting pass, warn or are blocked, with the exact bounds.
import { useId } from "react";
import type { Schemas } from "../../api/client";
import { Facet, LEVEL_COLOUR, type Level } from "../../ui/facet";
import { OUTCOME_LEVEL, OUTCOME_WORDS } from "../form/outcomes";
import type { Entered } from "../form-sheet/judging";
import { type Trying, useBand } from "./trying";

type Sweep = Schemas["SweepView"];
type Props = {
  form: { key: string; revision: number };
  trial: Trying;
  field: string;
  label: string;
  value: Entered;
  onChange: (value: Entered) => void;
};

export const FILL: Record<Level, string> = {
  clear: "bg-moss/15",
  note: "bg-slate/25",
  warn: "bg-ochre/35",
  block: "bg-madder/45",
  hold: "",
  proposal: "",
};

export function Band(props: Props) {
  const { form, trial, field, label } = props;
  const sweep = useBand(form, trial, field).data;
  if (!sweep || sweep.field !== field)
    return <p className="py-2 text-sm text-muted">The band of {label} is being drawn.</p>;
  return <Drawn {...props} sweep={sweep} />;
}

function Drawn({ label, value, onChange, sweep }: Props & { sweep: Sweep }) {
  const id = useId();
  const at = standingStop(sweep, value);
  const stop = sweep.stops[at];
  const columns = sweep.bands.map((band) => (isSingle(band) ? "1fr" : "2fr")).join(" ");
  const here = sweep.bands[sweep.standing ?? stop?.band ?? -1];
  return (
    <figure aria-label={`Where ${label} passes`} className="my-2 text-sm">
      <div className="grid grid-cols-[5.5rem_minmax(0,1fr)] items-center gap-x-2 gap-y-1">
        {(["save", "submit"] as const).map((moment) => (
          <Row key={moment} moment={moment} sweep={sweep} columns={columns} />
        ))}
        <label htmlFor={id} className="text-muted">
          Slide it
        </label>
        <input
          id={id}
          type="range"
          className="w-full accent-thistle"
          min={0}
          max={sweep.stops.length - 1}
          value={at}
          aria-valuetext={stop && said(sweep, stop)}
          onChange={(event) => {
            const chosen = sweep.stops[Number(event.target.value)];
            if (chosen) onChange(chosen.value ?? null);
          }}
        />
        <span />
        <ol
          aria-hidden="true"
          className="grid h-9 text-muted"
          style={{ gridTemplateColumns: columns }}
        >
          {sweep.bands.map((band, place) => (
            <li key={band.words} className="relative">
              <Tick band={band} below={place % 2 === 1} />
            </li>
          ))}
        </ol>
      </div>
      {here && (
        <p>
          Here: {here.words}. Saving {OUTCOME_WORDS[here.save].toLowerCase()}, submitting{" "}
          {OUTCOME_WORDS[here.submit].toLowerCase()}.
        </p>
      )}
      <details className="mt-1">
        <summary className="cursor-pointer text-muted">In words</summary>
        <ul className="pl-4">
          {sweep.bands.map((band) => (
            <li key={band.words}>
              {band.words}: saving {OUTCOME_WORDS[band.save].toLowerCase()}, submitting{" "}
              {OUTCOME_WORDS[band.submit].toLowerCase()}
            </li>
          ))}
        </ul>
      </details>
      {!sweep.exact && (
        <figcaption className="text-muted">
          Looked at by samples, so a bound may lie between two of them.
        </figcaption>
      )}
    </figure>
  );
}

function Row({
  moment,
  sweep,
  columns,
}: {
  moment: "save" | "submit";
  sweep: Sweep;
  columns: string;
}) {
  return (
    <>
      <span className="text-muted">{moment === "save" ? "Saving" : "Submitting"}</span>
      <div className="grid h-6 border border-edge" style={{ gridTemplateColumns: columns }}>
        {sweep.bands.map((band, place) => {
          const level = OUTCOME_LEVEL[band[moment]];
          return (
            <span
              key={band.words}
              title={`${band.words}: ${OUTCOME_WORDS[band[moment]].toLowerCase()}`}
              className={`flex items-center justify-center border-edge not-first:border-l ${FILL[level]} ${LEVEL_COLOUR[level]} ${place === sweep.standing ? "outline-2 -outline-offset-2 outline-ink" : ""}`}
            >
              <Facet level={level} size={12} />
            </span>
          );
        })}
      </div>
    </>
  );
}

function said(sweep: Sweep, stop: Sweep["stops"][number]) {
  const band = sweep.bands[stop.band];
  if (!band) return stop.words;
  const words = [band.save, band.submit].map((one) => OUTCOME_WORDS[one].toLowerCase());
  return `${stop.words}: saving ${words[0]}, submitting ${words[1]}`;
}

/** The stop at which the handle stands: that of the value, or the middle of its band. */
function standingStop(sweep: Sweep, value: Entered) {
  const exact = sweep.stops.findIndex((stop) => String(stop.value ?? "") === String(value ?? ""));
  if (exact >= 0) return exact;
  const own = sweep.stops
    .map((stop, place) => ({ band: stop.band, place }))
    .filter((stop) => stop.band === sweep.standing);
  return own[Math.floor(own.length / 2)]?.place ?? 0;
}

type BandView = Sweep["bands"][number];

const isSingle = (band: BandView) => Boolean(band.low && band.low.value === band.high?.value);

/** The bound at which a band begins; a single value stands under its own band. */
function Tick({ band, below }: { band: BandView; below: boolean }) {
  if (!band.low) return null;
  const place = isSingle(band) ? "left-1/2" : "left-0";
  return (
    <span
      className={`absolute -translate-x-1/2 whitespace-nowrap ${place} ${below ? "top-4" : "top-0"}`}
    >
      {band.low.words}
    </span>
  );
}
