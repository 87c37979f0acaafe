// Along one field: where saving and submitting pass, warn or are blocked, and what is offered, asked
// or needed elsewhere; drawn to scale, with the exact bounds and a handle that stands at its place.
import { type KeyboardEvent, useEffect, useId, useRef } from "react";
import { Facet, LEVEL_COLOUR, type Level } from "../../ui/facet";
import { useWidth } from "../../ui/width";
import { words } from "../../words";
import { levelOf, OUTCOME_WORDS } from "../form/outcomes";
import type { Entered } from "../form-sheet/judging";
import { Lanes, laneWords } from "./lanes";
import { type Mark, nearestAt, nextStop, rowsOf, shiftOf } from "./placing";
import { type BenchRequest, useBand } from "./trying";
import type { Sweep } from "./views";

const t = words("bench");

type BandView = Sweep["bands"][number];
type Props = {
  form: { key: string; revision: number };
  request: BenchRequest;
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

const USUAL_WIDTH = 400;
/** Of the picture: what is narrower shows no mark. */
const TOO_NARROW_FOR_A_MARK = 0.03;

export function Band(props: Props) {
  const { form, request, field, label } = props;
  const sweep = useBand(form, request, field).data;
  if (!sweep || sweep.field !== field)
    return (
      <p className="py-2 text-sm text-muted">{t("the_band_of_label_is_being_drawn", { label })}</p>
    );
  return <Drawn {...props} sweep={sweep} />;
}

function Drawn({ label, value, onChange, sweep }: Props & { sweep: Sweep }) {
  const id = useId();
  const figure = useRef<HTMLElement>(null);
  // It opens below what one looks at. Recent browsers answer scrolling with a promise, which an
  // effect must not return.
  useEffect(() => {
    figure.current?.scrollIntoView({ block: "nearest" });
  }, []);
  const [measured, width] = useWidth(USUAL_WIDTH);
  const exact = sweep.stops.findIndex((stop) => String(stop.value ?? "") === String(value ?? ""));
  // Between two stops the handle stands where its own value is drawn, and goes on from there.
  const place = sweep.here ?? 0;
  const at = exact >= 0 ? exact : sweep.stops.findLastIndex((stop) => stop.at <= place);
  const stop = sweep.stops[at];
  const here = sweep.standing ?? stop?.band;
  function choose(place: number) {
    const chosen = sweep.stops[place];
    if (chosen && place !== exact) onChange(chosen.value ?? null);
  }
  function onKey(event: KeyboardEvent) {
    const by = STEPS[event.key];
    if (by === undefined) return;
    event.preventDefault();
    if (event.key === "Home" || event.key === "End") choose(by < 0 ? 0 : sweep.stops.length - 1);
    else {
      const from = exact < 0 && by < 0 ? at + 1 : at;
      choose(nextStop(sweep.stops, from, by, event.shiftKey));
    }
  }
  return (
    <figure ref={figure} aria-label={t("where_label_passes", { label })} className="my-2 text-sm">
      <div className="grid grid-cols-[minmax(5.5rem,auto)_minmax(0,1fr)] items-center gap-x-2 gap-y-1">
        {sweep.ticks.length > 0 && <Axis ticks={sweep.ticks} width={width} />}
        {(["save", "submit"] as const).map((moment) => (
          <Row key={moment} moment={moment} sweep={sweep} />
        ))}
        <Lanes sweep={sweep} width={width} />
        <label htmlFor={id} className="text-muted">
          {t("slide_it")}
        </label>
        <input
          id={id}
          type="range"
          className="slide-along"
          min={0}
          max={FINE}
          value={Math.round((exact >= 0 ? (stop?.at ?? 0) : place) * FINE)}
          aria-valuetext={said(sweep, exact >= 0 ? stop : null)}
          onKeyDown={onKey}
          onChange={(event) => choose(nearestAt(sweep.stops, Number(event.target.value) / FINE))}
        />
        <span />
        <div ref={measured}>
          <Bounds bands={sweep.bands} width={width} />
        </div>
      </div>
      {here !== undefined && here !== null && sweep.bands[here] && (
        <p>
          {t("here_words_verdictwords_sweep", {
            words: sweep.bands[here].words,
            verdictWords: verdictWords(sweep.bands[here]),
            sweep: laneWords(sweep, here),
          })}
        </p>
      )}
      <details className="mt-1">
        <summary className="cursor-pointer text-muted">{t("in_words")}</summary>
        <ul className="pl-4">
          {sweep.bands.map((band, place) => (
            <li key={band.words}>
              {band.words}: {verdictWords(band).toLowerCase()}
              {laneWords(sweep, place)}
            </li>
          ))}
        </ul>
      </details>
      <figcaption className="text-muted">
        {sweep.by === "rank" && <>{t("not_to_scale_as_the_bounds_lie")} </>}
        {!sweep.exact && t("looked_at_by_samples_so_a_bound")}
      </figcaption>
    </figure>
  );
}

/** Steps of the handle along the whole picture. */
const FINE = 10_000;
const STEPS: Record<string, 1 | -1> = {
  ArrowRight: 1,
  ArrowUp: 1,
  ArrowLeft: -1,
  ArrowDown: -1,
  Home: -1,
  End: 1,
};

function Row({ moment, sweep }: { moment: "save" | "submit"; sweep: Sweep }) {
  return (
    <>
      <span className="text-muted">{moment === "save" ? t("saving") : t("submitting")}</span>
      <div className="relative h-6">
        {sweep.bands.map((band, place) => {
          const level = levelOf(band[moment]);
          const wide = band.ends - band.begins;
          const here = place === sweep.standing;
          return (
            <span
              key={band.words}
              title={`${band.words}: ${OUTCOME_WORDS[band[moment]].toLowerCase()}`}
              style={{ left: `${100 * band.begins}%`, width: `${100 * wide}%` }}
              className={`absolute inset-y-0 flex min-w-1 items-center justify-center overflow-hidden border-y border-l border-edge last:border-r first:border-r ${FILL[level]} ${LEVEL_COLOUR[level]} ${wide === 0 ? "z-10 -translate-x-1/2 border-r" : ""} ${here ? "outline-2 -outline-offset-2 outline-ink" : ""}`}
            >
              {wide > TOO_NARROW_FOR_A_MARK && <Facet level={level} size={12} />}
            </span>
          );
        })}
      </div>
    </>
  );
}

/** Round values along the picture. */
function Axis({ ticks, width }: { ticks: readonly Mark[]; width: number }) {
  const rows = rowsOf(ticks, 1, width);
  return (
    <>
      <span className="text-muted">{t("to_scale")}</span>
      <ol aria-hidden="true" className="relative h-5 text-xs text-muted">
        {ticks.map((tick, place) => (
          <li
            key={tick.words}
            className="absolute inset-y-0 border-l border-edge"
            style={{ left: `${100 * tick.at}%` }}
          >
            {rows[place] !== null && <span className="pl-1 whitespace-nowrap">{tick.words}</span>}
          </li>
        ))}
      </ol>
    </>
  );
}

const ROWS_OF_BOUNDS = 3;

/** The exact bounds at which bands begin, each under its own place. */
function Bounds({ bands, width }: { bands: readonly BandView[]; width: number }) {
  const marks: Mark[] = bands.flatMap((band, place) => {
    if (!band.low) return [];
    const single = band.low.value === band.high?.value;
    // Where what follows a single value begins at it, that is said once.
    const beside = bands[place - 1]?.low?.words;
    if (beside === band.low.words) return [];
    return [{ at: single ? (band.begins + band.ends) / 2 : band.begins, words: band.low.words }];
  });
  const rows = rowsOf(marks, ROWS_OF_BOUNDS, width);
  const used = Math.max(...rows.map((row) => (row ?? -1) + 1), 1);
  return (
    <ol
      aria-hidden="true"
      className="relative text-muted"
      style={{ height: `${used * ROW_OF_BOUNDS}rem` }}
    >
      {marks.map((mark, place) => {
        const row = rows[place];
        if (row === null || row === undefined) return null;
        return (
          <li
            key={`${mark.at} ${mark.words}`}
            className="absolute whitespace-nowrap"
            style={{
              left: `${100 * mark.at}%`,
              top: `${row * ROW_OF_BOUNDS}rem`,
              transform: `translateX(${shiftOf(mark, width)}%)`,
            }}
          >
            {mark.words}
          </li>
        );
      })}
    </ol>
  );
}

const ROW_OF_BOUNDS = 1.1;

const verdictWords = (band: BandView) =>
  t("saving_tolowercase_submitting_tolowercase2", {
    toLowerCase: OUTCOME_WORDS[band.save].toLowerCase(),
    toLowerCase2: OUTCOME_WORDS[band.submit].toLowerCase(),
  });

/** A stop and what happens there; without one, the value that stands in the field. */
function said(sweep: Sweep, stop: Sweep["stops"][number] | null | undefined) {
  const band = sweep.bands[stop ? stop.band : (sweep.standing ?? -1)];
  const words = stop?.words ?? sweep.words;
  if (!band) return words;
  const [save, submit] = [band.save, band.submit].map((one) => OUTCOME_WORDS[one].toLowerCase());
  return t("words_saving_save_submitting_submit", {
    words,
    save: save ?? "",
    submit: submit ?? "",
  });
}
