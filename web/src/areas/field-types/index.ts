// Every type of field, in the order of the list. The server's documents say which there are: one
// that is missing here, or a part of it, is not built.
import { choice } from "./choice";
import { choices } from "./choices";
import { date } from "./date";
import { dateTime } from "./date-time";
import { decimal } from "./decimal";
import { duration } from "./duration";
import type { Field, FieldType } from "./field";
import { quantity } from "./quantity";
import { reference } from "./reference";
import { text } from "./text";
import { time } from "./time";
import type { Shared, TypeOf } from "./type";
import { wholeNumber } from "./whole-number";
import { yesNo } from "./yes-no";

const TYPES: { [T in FieldType]: TypeOf<T> } = {
  [text.type]: text,
  [wholeNumber.type]: wholeNumber,
  [decimal.type]: decimal,
  [quantity.type]: quantity,
  [date.type]: date,
  [time.type]: time,
  [dateTime.type]: dateTime,
  [duration.type]: duration,
  [yesNo.type]: yesNo,
  [choice.type]: choice,
  [choices.type]: choices,
  [reference.type]: reference,
};

/** A type whose name is known only while it runs; its parts are given fields of that type alone. */
type AnyType = TypeOf<FieldType>;

export function typeNamed(name: FieldType): AnyType {
  return TYPES[name] as unknown as AnyType;
}

export function typeOf(field: Field): AnyType {
  return typeNamed(field.type);
}

export const ALL_TYPES = Object.values(TYPES) as unknown as AnyType[];

/** The same field holding something else; what the two types share is kept. */
export function withType(field: Field, type: FieldType): Field {
  return { ...shared(field), ...typeNamed(type).begins(field), type } as Field;
}

/** What fields of every type have in common. */
function shared(field: Field): Shared {
  const { key, label, hint, placeholder, label_shown, width } = field;
  const { emphasis, section, layouts, helper, keep } = field;
  return {
    ...{ key, label, hint, placeholder, label_shown, width },
    ...{ emphasis, section, layouts, helper, keep },
  };
}
