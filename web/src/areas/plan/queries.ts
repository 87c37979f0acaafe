// Changing the lines of a plan.
import { answer, client, type Schemas } from "../../api/client";
import { useDraftAct } from "../form/draft-act";
import type { FormView } from "../form/form";

export type PlanLine = Schemas["PlanLineView"];

type LineChange = { text?: string; rules?: string[]; cases?: string[] };

const changeLine = (form: FormView, line: PlanLine, change: LineChange) =>
  answer(
    client.PUT("/api/v1/forms/{form_key}/plan/{line_key}", {
      params: { path: { form_key: form.key, line_key: line.key } },
      body: {
        text: line.text,
        rules: line.rules,
        cases: line.cases,
        ...change,
        revision: line.revision,
      },
    }),
  );

/** Record that a rule covers a line of the plan. */
export function useTieToPlan(form: FormView) {
  return useDraftAct(form.key, {
    act: ({ line, rule }: { line: PlanLine; rule: string }) =>
      changeLine(form, line, { rules: [...line.rules, rule] }),
  });
}

export function useAddLine(form: FormView, onAdded: () => void) {
  return useDraftAct(form.key, {
    act: (text: string) =>
      answer(
        client.POST("/api/v1/forms/{form_key}/plan", {
          params: { path: { form_key: form.key } },
          body: { text, rules: [], cases: [] },
        }),
      ),
    done: onAdded,
  });
}

export function useChangeLine(form: FormView, line: PlanLine) {
  return useDraftAct(form.key, { act: (change: LineChange) => changeLine(form, line, change) });
}

export function useRemoveLine(form: FormView, line: PlanLine) {
  return useDraftAct(form.key, {
    act: () =>
      answer(
        client.DELETE("/api/v1/forms/{form_key}/plan/{line_key}", {
          params: {
            path: { form_key: form.key, line_key: line.key },
            query: { revision: line.revision },
          },
        }),
      ),
  });
}
