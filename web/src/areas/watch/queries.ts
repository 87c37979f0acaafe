// What is asked of the counts of attempts.

import { useQuery } from "@tanstack/react-query";
import { answer, client, type Schemas } from "../../api/client";
import { keys } from "../../api/keys";
import { dayFrom } from "../../ui/written";
import { words } from "../../words";

const t = words("watch");

export type Watch = Schemas["WatchView"];
export type RuleWatch = Schemas["RuleWatch"];
export type Counts = Schemas["RuleCountsView"];

/** As it stands in the address. */
export const USUAL = { since: "", until: "", release: "", entry_point: "", person: "" };
export type Asked = typeof USUAL;

export function queryOf({ since, until, release, entry_point, person }: Asked) {
  return {
    ...(dayFrom(since) && { since }),
    ...(dayFrom(until) && { until }),
    ...(/^\d+$/.test(release) && { release: Number(release) }),
    ...(entry_point && { entry_point }),
    ...(person && { person }),
  };
}

export function useWatch(formKey: string, asked: Asked) {
  const query = queryOf(asked);
  return useQuery({
    queryKey: keys.watch(formKey, query),
    queryFn: () =>
      answer(
        client.GET("/api/v1/forms/{form_key}/watch", {
          params: { path: { form_key: formKey }, query },
        }),
      ),
    placeholderData: (before) => before,
  });
}

/** One rule told apart; a blank key is what cannot be read. */
export function useRuleDetails(formKey: string, rule: string, asked: Asked, enabled: boolean) {
  const query = queryOf(asked);
  return useQuery({
    queryKey: keys.watch(formKey, query, rule),
    queryFn: () =>
      answer(
        client.GET("/api/v1/forms/{form_key}/watch/{rule_key}", {
          params: { path: { form_key: formKey, rule_key: rule || "-" }, query },
        }),
      ),
    enabled,
  });
}

export const timesIn = ({ noted, warned, blocked }: Counts) => noted + warned + blocked;

/** “warned 10 times, blocked 5”. */
export function inWords({ noted, warned, blocked }: Counts) {
  const said = [
    ["noted", noted],
    ["warned", warned],
    ["blocked", blocked],
  ].filter(([, count]) => count !== 0);
  return said.map(([what, count]) => `${what} ${count}`).join(", ") || t("never_spoke");
}

/** Of those it did not block, how many went past it. */
export function goneBy({ passed, waived }: Counts) {
  if (passed === 0) return "";
  return t("passed_went_on", { passed, isWaived: String(Boolean(waived > 0)), waived });
}

/** A share as people say it: “4 %”, “under 1 %”. */
export function percent(part: number, whole: number) {
  if (whole === 0) return "—";
  const share = (part / whole) * 100;
  if (share > 0 && share < 1) return t("under_1");
  return `${Math.round(share)} %`;
}
