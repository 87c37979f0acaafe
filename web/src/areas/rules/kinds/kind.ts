// What the editor must know of a kind of rule: every part is asked for, none has a default.
import type { ComponentType } from "react";
import type { Schemas } from "../../../api/client";
import type { FormView } from "../../form/form";
import type { FieldView, Kind, Place, RuleDraft, RuleOf } from "../../form/rule";
import type { Reading } from "../clause-place";
import { blankClause, governorOf, group } from "../clauses";

/** What every editor of a part of a rule is given. */
export type PartProps = {
  form: FormView;
  draft: RuleDraft;
  reading: Reading;
  onChange: (draft: RuleDraft) => void;
};
export type KindProps<K extends Kind> = PartProps & { rule: RuleOf<K> };
type Component<K extends Kind> = ComponentType<KindProps<K>>;

export type Heading = "must" | "asked" | "value";
type Settings<K extends Kind> = Partial<RuleOf<K>>;

/** One way of saying the kind in the list of what can be said. */
export type Option<K extends Kind> = { value: string; label: string; as: Settings<K> };

/** A rule of the kind as it begins: its own settings, and the clauses that stand in it. */
export type Beginning<K extends Kind> = { own: Settings<K>; clauses: RuleDraft["clauses"] };

export type Quick = {
  words: string;
  /** The types of field that it can be said of; null: of any. */
  fits: Schemas["FieldView"]["field"]["type"][] | null;
  /** Whether it is offered for what is said next of a new field, too. */
  next: boolean;
};

export type KindOf<K extends Kind> = {
  kind: K;
  heading: Heading;
  /** What rules of the kind are called together, in the register. */
  together: string;
  options: Option<K>[];
  /** Which of the options a rule is. */
  chosen: (rule: RuleOf<K>) => string;
  /** What is shown for it in the sentence, where that is not the label of the option. */
  shows: string | null;
  /** In which order the sentence is said: “A is required”, “no two may share A”, “…, told at A”. */
  order: "targets_verb" | "verb_targets" | "verb_told_at_targets";
  /** Whether it checks, and so has severities. */
  checks: boolean;
  /** Whether it cannot be said without a condition. */
  needsCondition: boolean;
  begins: (targets: readonly string[], fields: FieldView[], conditioned: boolean) => Beginning<K>;
  /** The rule about other fields, as far as its own settings hang on them. */
  retargeted: (rule: RuleOf<K>, before: readonly string[], fields: FieldView[]) => RuleOf<K>;
  /** What stands before the fields, and after the verb. */
  Before: Component<K> | null;
  Parts: Component<K> | null;
  /** What it tells people, of an effect. */
  Words: Component<K> | null;
  /** How it is said of a field at once; null: it is not. */
  quick: Quick | null;
};

/** Of a kind without settings of its own. */
export const beginsPlain = () => ({ own: {}, clauses: {} });

/** Of a kind whose settings do not hang on its fields. */
export const asItIs = <R>(rule: R): R => rule;

/** One way of saying it, which is the kind itself. */
export function said<K extends Kind>(kind: K, label: string) {
  return { options: [{ value: kind as string, label, as: {} }], chosen: () => kind as string };
}

/** A clause on a field to begin a place with. */
export function begun(
  place: Place,
  field: FieldView | undefined,
  part: "value" | "other" = "value",
) {
  return field ? { [place]: group("and", [blankClause(field, part)]) } : {};
}

/** The first of the targets, or the form's first field. */
export function firstOf(targets: readonly string[], fields: readonly FieldView[]) {
  return fields.find((one) => one.field.key === targets[0]) ?? fields[0];
}

/** The condition that an effect begins with, unless it has one. */
export function conditionBegun(
  targets: readonly string[],
  fields: FieldView[],
  conditioned: boolean,
) {
  return conditioned ? {} : begun("when", governorOf(fields, targets));
}
