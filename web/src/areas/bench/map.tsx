// Two fields against each other: a cell for each stretch of values, with what happens there.
import { type KeyboardEvent, useState } from "react";
import type { Schemas } from "../../api/client";
import { ChoicePart } from "../../ui/choice-part";
import { Facet, LEVEL_COLOUR } from "../../ui/facet";
import { OUTCOME_LEVEL, OUTCOME_WORDS } from "../form/outcomes";
import type { Entered } from "../form-sheet/judging";
import { FILL } from "./band";
import { type BenchForm, type Trying, useMap } from "./trying";

type MapView = Schemas["MapView"];
type Moment = "save" | "submit";
type Props = {
  form: BenchForm;
  revision: number;
  trial: Trying;
  across: string;
  down: string;
  onFields: (across: string, down: string) => void;
  onChoose: (values: Record<string, Entered>) => void;
};

export function FieldMap({ form, revision, trial, across, down, onFields, onChoose }: Props) {
  const [moment, setMoment] = useState<Moment>("submit");
  const map = useMap({ key: form.key, revision }, trial, across, down).data;
  const labels = new Map(form.fields.map((field) => [field.key, field.label]));
  const groups = (other: string) => [
    {
      options: form.mapped
        .filter((key) => key !== other)
        .map((key) => ({ value: key, label: labels.get(key) ?? key })),
    },
  ];
  return (
    <section aria-label="Two fields against each other" className="mt-3">
      <p className="flex flex-wrap items-baseline gap-1.5">
        <ChoicePart
          label="Across"
          value={across}
          groups={groups(down)}
          onChoose={(next) => onFields(next, down)}
        />
        across,
        <ChoicePart
          label="Down"
          value={down}
          groups={groups(across)}
          onChoose={(next) => onFields(across, next)}
        />
        down, on
        <ChoicePart
          label="Moment"
          value={moment}
          groups={[
            {
              options: [
                { value: "save", label: "saving" },
                { value: "submit", label: "submitting" },
              ],
            },
          ]}
          onChoose={(next) => setMoment(next as Moment)}
        />
      </p>
      {map && map.across === across && map.down === down ? (
        <Grid map={map} moment={moment} labels={labels} onChoose={onChoose} />
      ) : (
        <p className="py-2 text-muted">The map is being drawn.</p>
      )}
    </section>
  );
}

type GridProps = {
  map: MapView;
  moment: Moment;
  labels: Map<string, string>;
  onChoose: (values: Record<string, Entered>) => void;
};

/** Moved about in with the arrow keys; Enter puts both values into the form. */
function Grid({ map, moment, labels, onChoose }: GridProps) {
  const [at, setAt] = useState<[number, number]>([0, 0]);
  const [row, column] = [
    Math.min(at[0], map.rows.length - 1),
    Math.min(at[1], map.columns.length - 1),
  ];
  function onKey(event: KeyboardEvent<HTMLTableElement>) {
    const moves: Record<string, [number, number]> = {
      ArrowUp: [-1, 0],
      ArrowDown: [1, 0],
      ArrowLeft: [0, -1],
      ArrowRight: [0, 1],
    };
    const move = moves[event.key];
    if (!move) return;
    event.preventDefault();
    const next: [number, number] = [
      Math.min(Math.max(row + move[0], 0), map.rows.length - 1),
      Math.min(Math.max(column + move[1], 0), map.columns.length - 1),
    ];
    setAt(next);
    event.currentTarget
      .querySelector<HTMLButtonElement>(`[data-cell="${next[0]}-${next[1]}"]`)
      ?.focus();
  }
  const words = (r: number, c: number) => {
    const cell = map.cells[r]?.[c];
    const outcome = cell ? OUTCOME_WORDS[cell[moment]].toLowerCase() : "";
    return `${labels.get(map.down)} ${map.rows[r]?.words}, ${labels.get(map.across)} ${map.columns[c]?.words}: ${outcome}${cell?.uniform ? "" : " in part"}`;
  };
  return (
    <div className="overflow-x-auto pt-2">
      <table className="text-sm" aria-label="Map" onKeyDown={onKey}>
        <thead>
          <tr>
            <th className="pr-2 text-right font-normal text-muted">
              {labels.get(map.down)} ↓ {labels.get(map.across)} →
            </th>
            {map.columns.map((one) => (
              <th key={one.words} scope="col" className="h-32 w-7 align-bottom font-normal">
                <span className="inline-block max-h-32 truncate [writing-mode:vertical-rl] rotate-180">
                  {one.words}
                </span>
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {map.rows.map((one, r) => (
            <tr key={one.words}>
              <th scope="row" className="pr-2 text-right font-normal whitespace-nowrap">
                {one.words}
              </th>
              {map.cells[r]?.map((cell, c) => {
                const level = OUTCOME_LEVEL[cell[moment]];
                return (
                  <td
                    key={map.columns[c]?.words}
                    className={`border border-hairline ${FILL[level]}`}
                  >
                    <button
                      type="button"
                      data-cell={`${r}-${c}`}
                      tabIndex={r === row && c === column ? 0 : -1}
                      aria-label={words(r, c)}
                      title={words(r, c)}
                      className={`flex h-6 w-7 items-center justify-center ${LEVEL_COLOUR[level]} ${cell.uniform ? "" : "opacity-60"}`}
                      onClick={() =>
                        onChoose({
                          [map.across]: map.columns[c]?.value ?? null,
                          [map.down]: map.rows[r]?.value ?? null,
                        })
                      }
                      onFocus={() => setAt([r, c])}
                    >
                      <Facet level={level} size={11} />
                    </button>
                  </td>
                );
              })}
            </tr>
          ))}
        </tbody>
      </table>
      <p className="mt-1 text-sm text-muted">
        {words(row, column)}.{" "}
        {!map.exact &&
          "Where the two are compared with each other, a bound may run through a cell."}
      </p>
    </div>
  );
}
