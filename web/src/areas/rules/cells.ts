// The register as a grid: one stop of the tabulator a row, and arrow keys among its parts.
import type { KeyboardEvent } from "react";
import type { Moment } from "../form/rule";

export const CHOOSE = 0;
export const MOVE = 1;
export const REWRITE = 2;
export const COLUMN_OF: Record<Moment, number> = { entry: 3, save: 4, submit: 5 };
export const SWITCH = 6;

export type CellProps = { "data-cell": string; tabIndex: 0 | -1 };

const STEPS: Record<string, [number, number]> = {
  ArrowLeft: [0, -1],
  ArrowRight: [0, 1],
  ArrowUp: [-1, 0],
  ArrowDown: [1, 0],
};
/** Lines without cells, headings say, that are passed over. */
const PASSED_OVER = 6;

/** The column of a row that the tabulator stops at: the one used last, or the nearest there is. */
export function stopOf(there: readonly number[], last: number) {
  const before = there.filter((column) => column <= last);
  return before.at(-1) ?? there[0] ?? last;
}

export function columnOf(target: EventTarget | null) {
  const cell = target instanceof HTMLElement ? target.dataset.cell : undefined;
  return cell === undefined ? undefined : Number(cell.split("-")[1]);
}

/** Move the focus by an arrow key: to the next part of the row, or to the same one of another. */
export function moveAmongCells(event: KeyboardEvent<HTMLElement>) {
  const cell = (event.target as HTMLElement).dataset.cell;
  const move = STEPS[event.key];
  if (!cell || !move || event.altKey || event.ctrlKey || event.metaKey) return;
  const [row = 0, column = 0] = cell.split("-").map(Number);
  const box = event.currentTarget;
  const at = (r: number, c: number) => box.querySelector<HTMLElement>(`[data-cell="${r}-${c}"]`);
  event.preventDefault();
  if (move[1] !== 0) {
    for (let c = column + move[1]; c >= CHOOSE && c <= SWITCH; c += move[1]) {
      const next = at(row, c);
      if (next) return next.focus();
    }
    return;
  }
  for (let r = row + move[0], left = PASSED_OVER; r >= 0 && left > 0; r += move[0], left -= 1) {
    for (let c = column; c >= CHOOSE; c -= 1) {
      const next = at(r, c);
      if (next) return next.focus();
    }
  }
}
