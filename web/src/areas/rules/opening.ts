// The names of what opens the editor of a rule, to which the focus returns.

/** What begins a new rule. */
export const BEGINS = "new-rule";

/** What opens a rule. */
export const openerOf = (rule: string) => `rule:${rule}`;
