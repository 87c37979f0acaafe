// A field while it is being written. Shapes only: what is wrong with it is asked of the server.
import type { Schemas } from "../../api/client";
import type { Field } from "../field-types/field";

export type { Field, FieldType } from "../field-types/field";
export type FieldView = Schemas["FieldView"];

/** A field to begin with: its key is drawn from its label when it is added. */
export function newField(section: string | null): Field {
  return {
    ...{ key: "new", label: "", hint: "", placeholder: "", label_shown: true, width: "full" },
    ...{ emphasis: false, section, layouts: [], helper: false, keep: false },
    ...{ type: "text", long: false, trim: true, collapse: false, letter_case: null },
  } as Field;
}

/** The keys with one moved past the next (1) or the previous one (-1) of its own section. */
export function movedWithin(
  keys: readonly string[],
  key: string,
  by: -1 | 1,
  sectionOf: (key: string) => string,
) {
  const own = keys.filter((one) => sectionOf(one) === sectionOf(key));
  const neighbour = own[own.indexOf(key) + by];
  if (neighbour === undefined) return [...keys];
  const next = keys.filter((one) => one !== key);
  next.splice(next.indexOf(neighbour) + (by > 0 ? 1 : 0), 0, key);
  return next;
}
