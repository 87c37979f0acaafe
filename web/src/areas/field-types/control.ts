// What every control of a field is given, and how it shows what was typed.
import type { Schemas } from "../../api/client";
import type { Field } from "./field";

export type Entered = string | number | boolean | string[] | null;
export type Judgement = Schemas["VerdictsView"];

export type ControlProps = {
  id: string;
  field: Field;
  value: Entered;
  described: string;
  /** The hardest severity of what is told about the field. */
  hardest: "block" | "warn" | "note" | undefined;
  onChange: (value: Entered) => void;
  onTouch: () => void;
  readOnly: boolean;
  /** How its value reads, and what that was judged from. */
  words?: string | undefined;
  judged?: Judgement | undefined;
};

/** A note tells something about a value; it does not call it wrong. */
export function isWrong(hardest: ControlProps["hardest"]) {
  return hardest === "block" || hardest === "warn";
}

export function typedValue(value: Entered) {
  return value === null ? "" : String(value);
}
