// What the screens must know of a type of field: every part is asked for, none has a default.
import type { ComponentType, ReactNode } from "react";
import type { ControlProps } from "./control";
import type { Field, FieldOf, FieldType } from "./field";
import type { TypedLook } from "./typed-control";

/** What a type has beside what fields of every type have. */
export type Own<T extends FieldType> = Omit<FieldOf<T>, keyof Shared>;
export type Shared = Omit<FieldOf<"time">, "type">;

export type SettingsProps<T extends FieldType> = {
  field: FieldOf<T>;
  onChange: (part: Change<T>) => void;
};
/** A field does not change its type with its settings. */
type Change<T extends FieldType> = Partial<Omit<FieldOf<T>, "type">>;

export type TypeOf<T extends FieldType> = {
  type: T;
  /** What is stored in such a field, in the list of types. */
  words: string;
  /** Its own settings to begin with; those that the field has already are kept. */
  begins: (from: Field) => Own<T>;
  /** What the field holds, in a few words. */
  holds: (field: FieldOf<T>) => string;
  Settings: ComponentType<SettingsProps<T>> | null;
  Control: ComponentType<ControlProps & { field: FieldOf<T> }>;
  /** How a value is typed a second time, or where there is no other control. */
  look: (field: FieldOf<T>) => TypedLook;
  /** Whether a range fits its values, their length or their number. */
  isBounded: boolean;
  /** Whether its control is a group that the label names. */
  isGroup: boolean;
  /** A value where nothing is entered, as it stands by itself. */
  shown: (words: string, field: FieldOf<T>) => ReactNode;
};
