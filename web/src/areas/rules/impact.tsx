// What a rule means for the stored records before it is stored: of a sample first, then of them all.

import { useQuery } from "@tanstack/react-query";
import { answer, client, type Schemas } from "../../api/client";
import { keys } from "../../api/keys";
import { Facet } from "../../ui/facet";
import { useSettled } from "../../ui/pointer";
import { writtenNumber } from "../../ui/written";
import { words } from "../../words";
import type { FormView } from "../form/form";
import { type RuleDraft, ruleInputOf } from "../form/rule";

const t = words("rules");

type Impact = Schemas["RuleImpactPreviewView"];
type Props = { form: FormView; draft: RuleDraft; replaces: string | null };

const ASKED_AFTER = 700; // milliseconds without another change
const ASKED_AGAIN_AFTER = 1_000; // while they are being counted

export function StoredRecords({ form, draft, replaces }: Props) {
  const body = { ...ruleInputOf(draft), replaces };
  const settled = useSettled(JSON.stringify(body), ASKED_AFTER);
  const impact = useQuery({
    queryKey: keys.ruleImpact(form.key, form.revision, settled),
    queryFn: ({ signal }) =>
      answer(
        client.POST("/api/v1/forms/{form_key}/bench/impact", {
          params: { path: { form_key: form.key } },
          body: JSON.parse(settled) as typeof body,
          signal,
        }),
      ),
    placeholderData: (before) => before,
    refetchInterval: ({ state }) => (state.data?.working ? ASKED_AGAIN_AFTER : false),
    enabled: form.release !== null,
    gcTime: 5_000,
    retry: false,
  });
  const data = impact.isError ? undefined : impact.data;
  if (!data || data.unfinished || data.records === 0) return null;
  const stops = MOMENTS.some((moment) => countOf(data.stops, moment) > 0);
  return (
    <p
      role="status"
      aria-live="off"
      aria-label={t("stored_records")}
      className="mt-3 flex items-baseline gap-1.5 text-sm lg:pl-5"
    >
      <Facet level={stops ? "block" : "clear"} size={13} /> {inWords(data)}
    </p>
  );
}

const MOMENTS = ["save", "submit"] as const;
const ACTS = ["stops", "warns", "frees"] as const;

/** “Would newly stop 37 of 12,041 stored records on submitting.” */
export function inWords({ records, looked_at, exact, working, ...found }: Impact) {
  const counted = {
    all: writtenNumber(records),
    looked_at: writtenNumber(looked_at),
    exact: String(exact),
  };
  if (looked_at === 0) return t("counting_the_all_stored_records", { all: counted.all });
  const waiting = { working: String(working) };
  const acts = ACTS.flatMap((act) =>
    MOMENTS.filter((moment) => countOf(found[act], moment) > 0).map((moment) => ({
      ...{ act, moment },
      count: writtenNumber(countOf(found[act], moment)),
    })),
  );
  const [first, ...others] = acts;
  if (first) {
    const more = others.map((one) => t("newly_also", one)).join(", ");
    const also = { also: String(others.length > 0), more };
    return t("newly_acts_on_records", { ...first, ...counted, ...also, ...waiting });
  }
  if (found.newly === 0) return t("changes_nothing", { ...counted, ...waiting });
  return t("newly_violated", { newly: writtenNumber(found.newly), ...counted, ...waiting });
}

function countOf(counts: Impact["stops"], moment: "save" | "submit") {
  return counts[moment] ?? 0;
}
