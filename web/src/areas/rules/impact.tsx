// What a rule means for the stored records before it is stored: of a sample first, then of them all.
import { useQuery } from "@tanstack/react-query";
import { answer, client, type Schemas } from "../../api/client";
import { Facet } from "../../ui/facet";
import { useSettled } from "../../ui/pointer";
import { writtenNumber } from "../../ui/written";
import { words } from "../../words";
import type { FormView } from "../form/form";
import { eninputOf, type RuleDraft } from "../form/rule";

const t = words("rules");

type Impact = Schemas["RuleImpactPreviewView"];
type Props = { form: FormView; draft: RuleDraft; replaces: string | null };

const ASKED_AFTER = 700; // milliseconds without another change
const ASKED_AGAIN_AFTER = 1_000; // while they are being counted

export function StoredRecords({ form, draft, replaces }: Props) {
  const body = { ...eninputOf(draft), replaces };
  const settled = useSettled(JSON.stringify(body), ASKED_AFTER);
  const impact = useQuery({
    queryKey: ["impact", form.key, form.revision, settled],
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
  const stops = MOMENTS.some(([moment]) => countOf(data.stops, moment) > 0);
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

const MOMENTS = [
  ["save", t("on_saving")],
  ["submit", t("on_submitting")],
] as const;

/** “Would newly stop 37 of 12,041 stored records on submitting.” */
export function inWords({ records, looked_at, exact, working, ...found }: Impact) {
  const all = writtenNumber(records);
  const waiting = working ? t("counting_all_all", { all }) : "";
  if (looked_at === 0) return t("counting_the_all_stored_records", { all });
  const of = exact
    ? t("all_stored_records", { all })
    : t("looked_at_looked_at", { looked_at: writtenNumber(looked_at) });
  const acts = (["stops", "warns", "frees"] as const).flatMap((what) =>
    MOMENTS.filter(([moment]) => countOf(found[what], moment) > 0).map(
      ([moment, when]) => [ACTS[what], writtenNumber(countOf(found[what], moment)), when] as const,
    ),
  );
  const [first, ...others] = acts;
  if (!first) {
    if (found.newly > 0)
      return t("would_newly_be_violated_by_newly_of", {
        newly: writtenNumber(found.newly),
        of,
        waiting,
      });
    const none = exact ? t("the_of", { of }) : t("the_of_of_all", { of, all });
    return t("changes_nothing_for_none_waiting", { none, waiting });
  }
  const [act, count, when] = first;
  const more = others.map(([what, many, then]) => `${what} ${many} ${then}`);
  const told = [t("act_count_of_of_when", { act, count, of, when }), ...more].join(", ");
  return t("would_newly_told_waiting", { told, waiting });
}

const ACTS = { stops: "stop", warns: t("warn_of"), frees: t("let_through") };

function countOf(counts: Impact["stops"], moment: "save" | "submit") {
  return counts[moment] ?? 0;
}
