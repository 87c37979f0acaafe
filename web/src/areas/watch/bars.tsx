// Bars over time, to scale: how hard it spoke shows by how far a bar is filled, never by colour alone.
import { scaleBand, scaleLinear } from "d3-scale";
import { stack } from "d3-shape";
import { useId } from "react";
import { words } from "../../words";

const t = words("watch");

export type Level = "noted" | "warned" | "blocked" | "tried" | "stopped";
export type Row = { begins: string } & Partial<Record<Level, number>>;
export type Mark = { at: string; words: string };

type Props = {
  label: string;
  rows: readonly Row[];
  levels: readonly Level[];
  /** The same for all pictures that are looked at together. */
  most: number;
  marks: readonly Mark[];
  width: number;
  height: number;
  /** Where numbers and releases are written, too. */
  large?: boolean;
};

const LOOKS: Record<Level, { className: string; filled: "not" | "half" | "whole" }> = {
  noted: { className: "text-slate", filled: "not" },
  warned: { className: "text-ochre", filled: "half" },
  blocked: { className: "text-madder", filled: "whole" },
  tried: { className: "text-edge", filled: "not" },
  stopped: { className: "text-madder", filled: "whole" },
};
const LEFT = 30;
const BELOW = 18;

export function Bars({ label, rows, levels, most, marks, width, height, large = false }: Props) {
  const id = useId();
  const left = large ? LEFT : 0;
  const below = large ? BELOW : 0;
  const above = large ? BELOW : 2;
  const x = scaleBand(
    rows.map(({ begins }) => begins),
    [left, width],
  ).padding(0.18);
  const y = scaleLinear([0, Math.max(1, most)], [height - below, above]).nice(large ? 3 : 1);
  const layers = stack<Row, Level>()
    .keys(levels)
    .value((row, level) => row[level] ?? 0)([...rows]);
  const placeOf = (day: string) => {
    const row = rows.findLast(({ begins }) => begins <= day.slice(0, 10));
    return row ? (x(row.begins) ?? 0) : null;
  };
  return (
    <svg
      role="img"
      aria-label={label}
      viewBox={`0 0 ${width} ${height}`}
      className="block w-full"
      fontSize={11}
    >
      <defs>
        <pattern id={id} width="4" height="4" patternUnits="userSpaceOnUse" className="text-ochre">
          <path d="M0 4 4 0M-1 1 1-1M3 5 5 3" stroke="currentColor" strokeWidth="1.3" />
        </pattern>
      </defs>
      {large &&
        y.ticks(3).map((tick) => (
          <g key={tick} className="text-muted">
            <path d={`M${left} ${y(tick)}H${width}`} stroke="currentColor" strokeOpacity={0.25} />
            <text x={left - 5} y={y(tick) + 4} textAnchor="end" fill="currentColor">
              {tick}
            </text>
          </g>
        ))}
      {layers.map((layer) => {
        const { className, filled } = LOOKS[layer.key];
        return (
          <g key={layer.key} className={className}>
            {layer.map(([from, to], place) => {
              const row = rows[place];
              if (!row || to <= from) return null;
              return (
                <rect
                  key={row.begins}
                  x={x(row.begins)}
                  y={y(to)}
                  width={x.bandwidth()}
                  height={y(from) - y(to)}
                  stroke="currentColor"
                  strokeWidth={1}
                  fill={FILLS[filled](id)}
                />
              );
            })}
          </g>
        );
      })}
      <path
        d={`M${left} ${height - below}H${width}`}
        className="text-edge"
        stroke="currentColor"
        strokeWidth={1}
      />
      {marks.map(({ at, words }) => {
        const place = placeOf(at);
        if (place === null) return null;
        return (
          <g key={at} className="text-thistle">
            <path
              d={`M${place} ${large ? 4 : 0}V${height - below}`}
              stroke="currentColor"
              strokeDasharray="3 2"
            />
            {large && (
              <text x={place + 4} y={12} fill="currentColor">
                {words}
              </text>
            )}
          </g>
        );
      })}
      {large &&
        labelled(rows).map(({ begins, words }) => (
          <text
            key={begins}
            x={x(begins)}
            y={height - 4}
            className="text-muted"
            fill="currentColor"
          >
            {words}
          </text>
        ))}
    </svg>
  );
}

const FILLS = {
  not: () => "none",
  half: (id: string) => `url(#${CSS.escape(id)})`,
  whole: () => "currentColor",
};

const MONTHS = t("jan_feb_mar_apr_may_jun_jul").split(" ");

/** The first period of every month, with its name. */
function labelled(rows: readonly Row[]) {
  return rows
    .filter(
      ({ begins }, place) =>
        place > 0 && rows[place - 1]?.begins.slice(0, 7) !== begins.slice(0, 7),
    )
    .map(({ begins }) => ({ begins, words: MONTHS[Number(begins.slice(5, 7)) - 1] ?? "" }));
}
