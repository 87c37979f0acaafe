// The state of a form being filled in: what was typed, what was left, what was pressed.
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { answer, client, type Schemas } from "../../api/client";

export type Field = Schemas["FieldView"]["field"];
export type Judgement = Schemas["Judgement"];
export type Entered = string | number | boolean | null;
export type Values = Record<string, Entered>;
export type Pressed = "save" | "submit" | null;

const DOORS = {
  bench: "/api/forms/{form_key}/bench",
  desk: "/api/forms/{form_key}/desk/judge",
} as const;

/** The server's verdicts on what stands on the screen; the answer to the last keystroke wins. */
export function useJudgement(
  door: keyof typeof DOORS,
  formKey: string,
  revision: number,
  values: Values,
  touched: string[],
  event: "create" | "update" = "create",
) {
  return useQuery({
    queryKey: ["judgement", door, formKey, revision, values, touched, event],
    queryFn: ({ signal }) =>
      answer(
        client.POST(DOORS[door], {
          params: { path: { form_key: formKey } },
          body: { values, touched, event },
          signal,
        }),
      ),
    placeholderData: (before) => before,
    gcTime: 5_000,
    staleTime: 60_000,
  });
}

/** Which fields have been left or chosen, and which control was pressed last. */
export function useTouched(pressedBefore: Pressed = null) {
  const [touched, setTouched] = useState<string[]>([]);
  const [pressed, setPressed] = useState<Pressed>(pressedBefore);
  return {
    touched,
    pressed,
    press: setPressed,
    touch: (key: string) =>
      setTouched((before) => (before.includes(key) ? before : [...before, key].sort())),
    begin: () => {
      setTouched([]);
      setPressed(null);
    },
  };
}

export type Told = { text: string; severity: Schemas["RuleResult"]["severity"]; rule: string };

/** What is told at each field and at the top: while typing, and since a control was pressed. */
export function messagesOf(judgement: Judgement | undefined, pressed: Pressed) {
  const atField = new Map<string, Told[]>();
  const atTop: (Told & { field: string | undefined })[] = [];
  const seen = new Set<string>();
  const moments = pressed ? [judgement?.[pressed], judgement?.entry] : [judgement?.entry];
  for (const verdict of moments) {
    for (const [key, state] of Object.entries(verdict?.fields ?? {}))
      if (state.fault && !seen.has(`${key} fault`)) {
        seen.add(`${key} fault`);
        const severity = verdict?.moment === "entry" ? "warn" : "block";
        atField.set(key, [{ text: state.fault, severity, rule: "" }]);
      }
    for (const { rule, severity, status, messages, placement } of verdict?.results ?? []) {
      if (status !== "broken" || seen.has(rule)) continue;
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
