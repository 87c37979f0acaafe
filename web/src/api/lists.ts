// The closed lists of the core, written by `python -m scripts.publish_schema`.
export const SEVERITIES = ["none", "note", "warn", "block"] as const;
export const OUTCOMES = ["clear", "noted", "warned", "blocked"] as const;
export const MOMENTS = ["entry", "save", "submit"] as const;
export const STORING_MOMENTS = ["save", "submit"] as const;
export const EVENTS = ["create", "update"] as const;
export const STATUSES = [
  "unfinished",
  "disabled",
  "out_of_scope",
  "not_relevant",
  "silent",
  "not_applicable",
  "not_evaluable",
  "violated",
  "satisfied",
] as const;
export const ENTRY_POINTS = ["desk", "handheld", "link", "import", "service"] as const;
export const ROLES = ["steward", "clerk", "approver", "reader"] as const;
export const STORING_ROLES = ["clerk", "approver", "steward"] as const;
export const FIELD_TYPES = [
  "text",
  "whole_number",
  "decimal",
  "quantity",
  "date",
  "time",
  "date_time",
  "duration",
  "yes_no",
  "choice",
  "choices",
  "reference",
] as const;
export const RULE_KINDS = [
  "mandatory",
  "range",
  "allowed_values",
  "format",
  "cross_field",
  "group",
  "unique",
  "elsewhere",
  "entered_twice",
  "consent",
  "open",
  "close",
  "lock",
  "wait",
  "derive",
  "start",
  "propose",
] as const;
