// The state of a form being filled in: what was typed, what was left, what was pressed.

import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { answer, client, type Schemas } from "../../api/client";
import { keys } from "../../api/keys";
import { words } from "../../words";
import type { Entered, Judgement } from "../field-types/control";

export type { Entered, Judgement } from "../field-types/control";
export type { Field } from "../field-types/field";

const t = words("formSheet");

export type Sheet = Schemas["SheetView"];
export type FieldState = Schemas["FieldState"];
export type Proposal = Schemas["ProposalView"];
export type Reason = Schemas["ReasonGiven"];
export type Values = Record<string, Entered>;
export type Pressed = "save" | "submit" | null;

/** A record as it stands on the screen: what was entered, and what was decided meanwhile. */
export type Entries = {
  values: Values;
  /** Why warnings are passed, by rule. */
  reasons: Record<string, Reason>;
  /** The rules whose proposals were applied. */
  applied: string[];
};

export function entriesWith(values: Values): Entries {
  return { values, reasons: {}, applied: [] };
}

/** The desk's verdicts on what stands on the screen; the answer to the last keystroke wins. */
export function useJudgement(
  formKey: string,
  revision: number,
  entries: Entries,
  touched: string[],
  stored: { number: number; revision: number } | null = null,
) {
  const number = stored?.number ?? null;
  const body: Schemas["JudgeBody"] = {
    values: entries.values,
    reasons: entries.reasons,
    proposals_applied: entries.applied,
    touched,
    number,
    event: number === null ? "create" : "update",
  };
  // What is stored counts too: a hold that was lifted, say, makes the record another version.
  return useJudged(keys.judgement(formKey, revision, stored?.revision ?? 0, body), (signal) =>
    answer(
      client.POST("/api/v1/forms/{form_key}/desk/judge", {
        params: { path: { form_key: formKey } },
        body,
        signal,
      }),
    ),
  );
}

/** The verdicts that are asked for under a key; the answer to the last keystroke wins. */
export function useJudged(
  queryKey: readonly unknown[],
  ask: (signal: AbortSignal) => Promise<Judgement>,
) {
  return useQuery({
    queryKey,
    queryFn: ({ signal }) => ask(signal),
    placeholderData: (before) => before,
    gcTime: 5_000,
    staleTime: 60_000,
  });
}

/** Why a warning was passed, and the name of its rule where that is told. */
export type Passed = { text: string; by: string; at: string; rule?: string };

/** Which fields have been left or chosen, and which control was pressed last. */
export function useTouched(pressedBefore: Pressed = null) {
  const [touched, setTouched] = useState<string[]>([]);
  const [pressed, setPressed] = useState<Pressed>(pressedBefore);
  return {
    touched,
    pressed,
    press: setPressed,
    touch: (...keys: string[]) =>
      setTouched((before) =>
        keys.every((key) => before.includes(key))
          ? before
          : [...new Set([...before, ...keys])].sort(),
      ),
    begin: () => {
      setTouched([]);
      setPressed(null);
    },
  };
}

/** The ways in which a sheet changes a record. */
export function changesOf(
  change: (update: (before: Entries) => Entries) => void,
  touch: (...keys: string[]) => void,
) {
  return {
    onChange: (key: string, value: Entered) =>
      change((before) => ({ ...before, values: { ...before.values, [key]: value } })),
    onReason: (rule: string, reason: Reason) =>
      change((before) => ({ ...before, reasons: { ...before.reasons, [rule]: reason } })),
    onApply: (proposal: Proposal, apply: boolean) => {
      change((before) => ({
        ...before,
        applied: apply
          ? [...before.applied, proposal.rule]
          : before.applied.filter((rule) => rule !== proposal.rule),
      }));
      touch(...Object.keys(proposal.values));
    },
    onTouch: touch,
  };
}

export type SheetChanges = ReturnType<typeof changesOf>;
export type Told = { text: string; severity: Schemas["RuleResultView"]["severity"]; rule: string };

/** What is told at each field and at the top: while typing, and since a control was pressed. */
export function messagesOf(judgement: Judgement | undefined, pressed: Pressed) {
  const atField = new Map<string, Told[]>();
  const atTop: (Told & { field: string | undefined })[] = [];
  const seen = new Set<string>();
  const moments = pressed ? [judgement?.[pressed], judgement?.entry] : [judgement?.entry];
  for (const verdict of moments) {
    for (const [key, state] of Object.entries(verdict?.fields ?? {}))
      if (state.fault && !seen.has(t("key_fault", { key }))) {
        seen.add(t("key_fault", { key }));
        const severity = verdict?.moment === "entry" ? "warn" : "block";
        atField.set(key, [{ text: state.fault, severity, rule: "" }]);
      }
    for (const { rule, severity, status, messages, placement } of verdict?.results ?? []) {
      if (status !== "violated" || seen.has(rule)) continue;
      seen.add(rule);
      for (const { text, fields } of messages) {
        if (placement !== "field") atTop.push({ text, severity, rule, field: fields[0] });
        if (placement !== "top")
          for (const key of fields)
            atField.set(key, [...(atField.get(key) ?? []), { text, severity, rule }]);
      }
    }
  }
  return { atField, atTop };
}

/** What stands in the way of a moment, or will be told at it, once for each field. */
export function inTheWay(verdict: Judgement["save"], severities: readonly string[]) {
  const found = new Map<string, string>();
  if (severities.includes("block"))
    for (const [key, state] of Object.entries(verdict.fields))
      if (state.fault) found.set(key, state.fault);
  for (const { status, severity, messages } of verdict.results)
    if (status === "violated" && severities.includes(severity))
      for (const { text, fields } of messages ?? [])
        for (const key of fields) if (!found.has(key)) found.set(key, text);
  return [...found].map(([field, text]) => ({ field, text }));
}

export type Demand = { rule: string; basis: string; text: string; lapsed: boolean };

/** The warnings that pass only with a reason, by the field at which it is asked. */
export function reasonsAsked(judgement: Judgement | undefined, given: Entries["reasons"]) {
  const asked = new Map<string, Demand[]>();
  const seen = new Set<string>();
  for (const verdict of judgement ? [judgement.save, judgement.submit] : [])
    for (const { rule, waiver, basis, messages } of verdict.results) {
      const field = messages?.[0]?.fields[0];
      if (!waiver || !basis || !field || seen.has(rule)) continue;
      seen.add(rule);
      const demand = { rule, basis, text: given[rule]?.text ?? "", lapsed: waiver === "lapsed" };
      asked.set(field, [...(asked.get(field) ?? []), demand]);
    }
  return asked;
}

/** What holds the record up, with the field to go to. */
export function heldBy(judgement: Judgement) {
  const { held_by, results } = judgement.save;
  return results
    .filter((result) => held_by.includes(result.rule))
    .flatMap((result) => result.messages ?? []);
}
