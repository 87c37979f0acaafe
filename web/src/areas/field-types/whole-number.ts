// A whole number, with a unit where it has one.
import { words } from "../../words";
import { NumberControl, NumberSettings, numberBegins, numberLook, unitWords } from "./numbers";
import type { TypeOf } from "./type";

const t = words("fields");

export const wholeNumber: TypeOf<"whole_number"> = {
  type: "whole_number",
  words: t("a_whole_number"),
  begins: (from) => ({ ...numberBegins(from), type: "whole_number" }),
  holds: (field) => unitWords(t("a_whole_number"), field),
  Settings: NumberSettings,
  Control: NumberControl,
  look: numberLook,
  isBounded: true,
  isGroup: false,
  shown: (words) => words,
};
