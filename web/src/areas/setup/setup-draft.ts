// What a form is beside its fields and rules, while it is being changed.
import type { Schemas } from "../../api/client";
import type { FormView } from "../form/form";

export type Named = Schemas["NamedCondition"] & { clauses: Schemas["ClauseGroup"] | null };
export type Setup = Omit<Schemas["SetUp"], "clauses" | "conditions"> & { conditions: Named[] };

export function setupOf(form: FormView): Setup {
  const { revision, zone, derived_from, sections, layouts, compounds, starters } = form.setup;
  const conditions = form.setup.conditions.map(({ key, name, condition, clauses }) => ({
    ...{ key, name, condition },
    clauses: clauses ?? null,
  }));
  return {
    ...{ revision, name: form.name, purpose: form.purpose, zone },
    ...{ derived_from: derived_from ?? null },
    ...{ sections, layouts, compounds, conditions, starters },
  };
}

/** What is sent: conditions written as clauses apart from their formulas. */
export function sentOf({ conditions, ...setup }: Setup): Schemas["SetUp"] {
  const clauses = conditions.flatMap((one) => (one.clauses ? [[one.key, one.clauses]] : []));
  return {
    ...setup,
    conditions: conditions.map(({ clauses: _, ...one }) => one),
    clauses: Object.fromEntries(clauses),
  };
}

/** A key that says what the label says, and is not taken; the server has the last word. */
export function keyFrom(label: string, taken: readonly string[], what: string) {
  const bare = label.normalize("NFKD").replace(/\p{M}/gu, "").toLowerCase();
  const stem = bare
    .replace(/[^a-z0-9]+/g, "_")
    .replace(/^_+|_+$/g, "")
    .slice(0, 40);
  const begin = /^[a-z]/.test(stem) ? stem : `${what}_${stem}`.replace(/_$/, "");
  let key = begin;
  for (let count = 2; taken.includes(key); count += 1) key = `${begin}_${count}`;
  return key;
}

/** The list with one item a step up or down. */
export function stepped<T>(items: readonly T[], from: number, by: -1 | 1): T[] {
  const next = [...items];
  const [item] = next.splice(from, 1);
  if (item !== undefined) next.splice(Math.max(0, Math.min(from + by, next.length)), 0, item);
  return next;
}
