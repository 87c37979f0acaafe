// The axes of a map: round values, exact bounds, choices and blank, each at its own place.
import type { Schemas } from "../../api/client";
import { useWidth } from "../../ui/width";
import { rowsOf, shiftOf } from "./placing";

type Side = Schemas["SideView"];
type Mark = Schemas["Tick"];

const USUAL_WIDTH = 600;
const BOUND_ROWS = 3;
const ROW = 1.1; // rem
/** Of the picture: bounds nearer to one another than this stand in one place upward. */
const TOO_NEAR = 0.045;

const middleOf = (slot: Side["slots"][number]) => ({
  at: (slot.begins + slot.ends) / 2,
  words: slot.words,
});

export function AxisAcross({ side }: { side: Side }) {
  const round: Mark[] = side.by === "each" ? [] : side.ticks;
  const inWords = side.marks;
  const [measured, width] = useWidth(USUAL_WIDTH);
  const rows = rowsOf(inWords, BOUND_ROWS, width);
  const used = Math.max(0, ...rows.map((row) => (row ?? -1) + 1));
  return (
    <div ref={measured} aria-hidden="true" className="relative text-xs">
      <ol className="relative h-5 text-muted">
        {side.slots.map((slot) => (
          <li
            key={slot.words}
            title={slot.words}
            className="absolute truncate px-0.5 text-center"
            style={{
              left: `${100 * slot.begins}%`,
              width: `${100 * (slot.ends - slot.begins)}%`,
            }}
          >
            {slot.words}
          </li>
        ))}
        {round.map((tick) => (
          <At key={tick.words} mark={tick} width={width} className="text-muted" ticked />
        ))}
      </ol>
      <ol className="relative" style={{ height: `${used * ROW}rem` }}>
        {inWords.map((mark, place) => {
          const row = rows[place];
          if (row === null || row === undefined) return null;
          return <At key={`${mark.at} ${mark.words}`} mark={mark} width={width} top={row * ROW} />;
        })}
      </ol>
      <p className="text-center text-sm text-muted">{side.label} →</p>
    </div>
  );
}

type AtProps = { mark: Mark; width: number; className?: string; top?: number; ticked?: boolean };

function At({ mark, width, className = "font-semibold", top = 0, ticked = false }: AtProps) {
  return (
    <>
      {ticked && (
        <li
          className="absolute top-0 h-1 border-l border-edge"
          style={{ left: `${100 * mark.at}%` }}
        />
      )}
      <li
        className={`absolute whitespace-nowrap ${className}`}
        style={{
          left: `${100 * mark.at}%`,
          top: `${top}rem`,
          transform: `translateX(${shiftOf(mark, width)}%)`,
        }}
      >
        {mark.words}
      </li>
    </>
  );
}

export function AxisUpward({ side }: { side: Side }) {
  const slots = side.slots.map(middleOf);
  const bounds = apart(side.marks, slots);
  const round = apart(side.by === "each" ? [] : side.ticks, [...slots, ...bounds]);
  const all = [
    ...slots.map((one) => ({ ...one, look: "" })),
    ...bounds.map((one) => ({ ...one, look: "font-semibold" })),
    ...round.map((one) => ({ ...one, look: "text-muted" })),
  ];
  const widest = Math.max(...all.map((one) => one.words.length));
  return (
    <div
      aria-hidden="true"
      className="relative pr-1.5 text-xs"
      style={{ width: `${Math.min(widest, LONGEST) * SIGN + GAP}rem` }}
    >
      {all.map((one) => (
        <span
          key={`${one.at} ${one.words}`}
          title={one.words}
          className={`absolute right-1.5 max-w-full translate-y-1/2 truncate ${one.look}`}
          style={{ bottom: `${100 * one.at}%` }}
        >
          {one.words}
        </span>
      ))}
    </div>
  );
}

const SIGN = 0.44; // rem
const GAP = 0.9;
const LONGEST = 24;

/** Marks that stand clear of others, and of one another. */
function apart(marks: readonly Mark[], others: readonly Mark[]) {
  const kept: Mark[] = [];
  for (const mark of marks)
    if ([...others, ...kept].every((one) => Math.abs(one.at - mark.at) > TOO_NEAR)) kept.push(mark);
  return kept;
}
