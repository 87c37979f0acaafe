// Every kind of rule that the editor knows, in the order of the list. The server's documents say
// which there are: one that is missing here, or a part of it, is not built.
import type { Kind, Rule } from "../../form/rule";
import { allowedValues } from "./allowed-values";
import { close } from "./close";
import { consent } from "./consent";
import { crossField } from "./cross-field";
import { derive } from "./derive";
import { elsewhere } from "./elsewhere";
import { enteredTwice } from "./entered-twice";
import { format } from "./format";
import { group } from "./group";
import type { KindOf } from "./kind";
import { lock } from "./lock";
import { mandatory } from "./mandatory";
import { open } from "./open";
import { propose } from "./propose";
import { range } from "./range";
import { start } from "./start";
import { unique } from "./unique";
import { wait } from "./wait";

const KINDS: { [K in Kind]: KindOf<K> } = {
  [mandatory.kind]: mandatory,
  [range.kind]: range,
  [allowedValues.kind]: allowedValues,
  [format.kind]: format,
  [crossField.kind]: crossField,
  [group.kind]: group,
  [unique.kind]: unique,
  [elsewhere.kind]: elsewhere,
  [enteredTwice.kind]: enteredTwice,
  [consent.kind]: consent,
  [open.kind]: open,
  [close.kind]: close,
  [lock.kind]: lock,
  [wait.kind]: wait,
  [derive.kind]: derive,
  [start.kind]: start,
  [propose.kind]: propose,
};

/** What a rule begins as. */
export const FIRST_KIND = mandatory.kind;

/** A kind whose name is known only while it runs; its parts are given rules of that kind alone. */
type AnyKind = KindOf<Kind>;

export function kindNamed(name: Kind): AnyKind {
  return KINDS[name] as unknown as AnyKind;
}

export function kindOf(rule: Rule): AnyKind {
  return kindNamed(rule.kind);
}

export const ALL_KINDS = Object.values(KINDS) as unknown as AnyKind[];
