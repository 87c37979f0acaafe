// Changing the lines of a plan.
import { useMutation } from "@tanstack/react-query";
import { answer, client, type Schemas } from "../../api/client";
import { type FormView, oneByOne, useRefresh } from "../form/form";

export type PlanLine = Schemas["PlanLineView"];

/** Say of a line of the plan that a rule covers it. */
export function useTieToPlan(form: FormView) {
  const refresh = useRefresh(form.key);
  return useMutation({
    scope: oneByOne(form.key),
    mutationFn: ({ line, rule }: { line: PlanLine; rule: string }) =>
      answer(
        client.PUT("/api/v1/forms/{form_key}/plan/{line_key}", {
          params: { path: { form_key: form.key, line_key: line.key } },
          body: {
            text: line.text,
            rules: [...line.rules, rule],
            cases: line.cases,
            revision: line.revision,
          },
        }),
      ),
    onSettled: refresh,
  });
}
