// What would be found wrong with a rule as it is being written, in the background.

import { useQuery } from "@tanstack/react-query";
import { answer, client } from "../../api/client";
import { keys } from "../../api/keys";
import { Facet } from "../../ui/facet";
import { useSettled } from "../../ui/pointer";
import { words } from "../../words";
import type { FormView } from "../form/form";
import { type RuleDraft, ruleInputOf } from "../form/rule";

const t = words("rules");

type Props = { form: FormView; draft: RuleDraft; replaces: string | null };

const ASKED_AFTER = 900; // milliseconds without another change
const ASKED_AGAIN_AFTER = 1_000; // while it is being looked for

export function FoundOfRule({ form, draft, replaces }: Props) {
  const body = { ...ruleInputOf(draft), replaces };
  const settled = useSettled(JSON.stringify(body), ASKED_AFTER);
  const found = useQuery({
    queryKey: keys.ruleFindings(form.key, form.revision, settled),
    queryFn: ({ signal }) =>
      answer(
        client.POST("/api/v1/forms/{form_key}/rule-findings", {
          params: { path: { form_key: form.key } },
          body: JSON.parse(settled) as typeof body,
          signal,
        }),
      ),
    placeholderData: (before) => before,
    refetchInterval: ({ state }) => (state.data?.working ? ASKED_AGAIN_AFTER : false),
    gcTime: 5_000,
    retry: false,
  });
  const list = found.isError ? [] : (found.data?.found ?? []);
  if (list.length === 0) return null;
  return (
    <ul aria-label={t("what_is_found_of_it")} className="mt-3 text-sm lg:pl-5">
      {list.map(({ code, gravity, says }) => (
        <li key={`${code} ${says}`} className="flex items-baseline gap-1.5">
          <Facet level={gravity === "wrong" ? "warn" : "note"} size={13} /> {says}
        </li>
      ))}
    </ul>
  );
}
