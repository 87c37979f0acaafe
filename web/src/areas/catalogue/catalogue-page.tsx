// All forms as a register, with what can stop or warn in each.

import { useQuery } from "@tanstack/react-query";
import { Link } from "react-router";
import { answer, client, type Schemas } from "../../api/client";
import { askedAgain } from "../../api/jobs";
import { keys } from "../../api/keys";
import { useAddress } from "../../ui/address";
import { ChoicePart } from "../../ui/choice-part";
import { type Counted, counted } from "../../ui/counts";
import { Facet, type Level } from "../../ui/facet";
import { Page } from "../../ui/page";
import { SearchBox } from "../../ui/search-box";
import { Trouble } from "../../ui/trouble";
import { writtenNumber } from "../../ui/written";
import { words } from "../../words";
import { useFindingCounts } from "../findings/queries";
import { BeginForm } from "./begin-form";
import { placeOf, useHits } from "./search";

const t = words("catalogue");

type Summary = Schemas["FormSummary"];
const ONLY = {
  all: { label: t("all_forms"), fits: () => true },
  with_rules: { label: t("those_with_rules"), fits: (form: Summary) => form.rules > 0 },
  demanding: {
    label: t("those_with_required_fields"),
    fits: (form: Summary) => form.mandatory_fields > 0,
  },
  stopping: {
    label: t("those_that_can_stop_a_save"),
    fits: (form: Summary) => form.can_block_save > 0,
  },
  differing: {
    label: t("those_with_unreleased_changes"),
    fits: (form: Summary) => form.draft_changed,
  },
};
type Only = keyof typeof ONLY;
/** What is counted of each form; each count leads to what it counts. */
const COUNTS: {
  head: string;
  of: Counted;
  that?: string;
  place: string;
  count: (form: Summary) => number;
  level?: Level;
}[] = [
  { head: t("fields"), of: "field", place: "fields", count: (form) => form.fields },
  {
    head: t("required"),
    of: "required_field",
    place: "fields?show=needed",
    count: (form) => form.mandatory_fields,
  },
  { head: t("rules"), of: "rule", place: "rules", count: (form) => form.rules },
  {
    head: t("can_warn"),
    of: "rule",
    that: t("that_can_warn"),
    place: "rules?show=warns",
    count: (form) => form.can_warn,
    level: "warn",
  },
  {
    head: t("can_stop_a_save"),
    of: "rule",
    that: t("that_can_stop_a_save"),
    place: "rules?show=stops_save",
    count: (form) => form.can_block_save,
    level: "block",
  },
  {
    head: t("can_stop_a_submit"),
    of: "rule",
    that: t("that_can_stop_a_submit"),
    place: "rules?show=stops_submit",
    count: (form) => form.can_block_submit,
    level: "block",
  },
  { head: t("records"), of: "record", place: "records", count: (form) => form.records },
];
const USUAL = { search: "", show: "all" };
export function CataloguePage() {
  const forms = useQuery({
    queryKey: keys.forms,
    queryFn: () => answer(client.GET("/api/v1/forms")),
    refetchInterval: ({ state }) =>
      askedAgain(state.data?.every(({ cases_to_run }) => cases_to_run === 0)),
  });
  // Asked for at once with the forms, not after them.
  const findings = useFindingCounts();
  const [asked, ask] = useAddress(USUAL);
  const { search } = asked;
  const only: Only = asked.show in ONLY ? (asked.show as Only) : "all";
  const wanted = search.trim().toLowerCase();
  const shown = forms.data?.filter(
    (form) =>
      ONLY[only].fits(form) && `${form.name} ${form.purpose}`.toLowerCase().includes(wanted),
  );
  return (
    <Page title={t("forms")} heading={null} className="mx-auto w-full max-w-6xl px-6 py-8">
      <div className="flex flex-wrap items-end gap-x-6 gap-y-3">
        <h1 className="mr-auto text-4xl">{t("forms")}</h1>
        <ChoicePart
          label={t("which_forms_are_shown")}
          value={only}
          groups={[
            { options: Object.entries(ONLY).map(([value, { label }]) => ({ value, label })) },
          ]}
          onChoose={(next) => ask({ show: next })}
        />
        <SearchBox
          label={t("search_the_forms")}
          placeholder={t("search_forms_fields_rules")}
          value={search}
          onChange={(next) => ask({ search: next })}
        />
        <BeginForm />
      </div>
      <Trouble error={forms.error} />
      {shown &&
        (shown.length > 0 ? (
          <Register forms={shown} findings={findings.data ?? []} />
        ) : (
          <Nothing any={forms.data?.length !== 0} />
        ))}
      {wanted.length > 1 && <Hits asked={wanted} />}
    </Page>
  );
}

function Nothing({ any }: { any: boolean }) {
  return (
    <p className="mt-10 border-t border-hairline pt-6 text-muted">
      {any ? t("no_matching_forms_clear_the_search_or") : t("no_forms_yet_create_the_first_one")}
    </p>
  );
}

type RegisterProps = { forms: Summary[]; findings: Schemas["FormFindings"][] };

function Register({ forms, findings }: RegisterProps) {
  const found = new Map(findings.map((one) => [one.form, one]));
  return (
    <table className="mt-6 w-full border-t border-b border-edge">
      <thead className="text-left text-muted">
        <tr className="border-b border-hairline align-bottom *:px-3 *:py-2 *:font-normal">
          <th scope="col">{t("form")}</th>
          {COUNTS.map(({ place, head, level }) => (
            <th key={place} scope="col" className="max-w-24 text-right">
              {level && <Facet level={level} size={13} />} {head}
            </th>
          ))}
          <th scope="col">{t("release")}</th>
        </tr>
      </thead>
      <tbody>
        {forms.map((form) => (
          <tr key={form.key} className="border-b border-hairline align-top *:px-3 *:py-3">
            <th scope="row" className="text-left font-normal">
              {/* On the line of the name: a row stays as high as it is when a search has ended. */}
              <div className="flex items-baseline justify-between gap-4">
                <Link to={`/forms/${form.key}/rules`} className="font-serif text-xl text-thistle">
                  {form.name}
                </Link>
                {/* Its room is kept, so that no long name breaks when something comes to stand here. */}
                <span className="flex w-52 shrink-0 items-baseline justify-end gap-4">
                  {form.cases_to_run > 0 && (
                    <span
                      className="text-sm whitespace-nowrap text-muted"
                      title={t("cases_to_run_cases_to_be_run", {
                        cases_to_run: form.cases_to_run,
                        cases_to_runShown: writtenNumber(form.cases_to_run),
                      })}
                    >
                      {t("cases")}
                      <span className="sr-only">
                        {" "}
                        {t("to_be_run_again_cases_to_run", { cases_to_run: form.cases_to_run })}
                      </span>
                    </span>
                  )}
                  <FindingsOf counts={found.get(form.key)} formKey={form.key} />
                </span>
              </div>
              <p className="text-muted">{form.purpose}</p>
              {form.failing > 0 && (
                <p className="flex items-center gap-1.5 text-madder">
                  <Facet level="block" size={13} />
                  {t("failing_of_cases_cases_fail", {
                    failing: form.failing,
                    cases: form.cases,
                    casesShown: writtenNumber(form.cases),
                  })}
                </p>
              )}
            </th>
            {COUNTS.map(({ place, of, that, count }) => (
              <td key={place} className="text-right text-lg">
                <Link
                  to={`/forms/${form.key}/${place}`}
                  aria-label={t("count_in_form", {
                    count: counted(count(form), of),
                    narrowed: String(Boolean(that)),
                    that: that ?? "",
                    form: form.name,
                  })}
                  className="underline decoration-hairline hover:text-thistle"
                >
                  {writtenNumber(count(form))}
                </Link>
              </td>
            ))}
            <td>
              {form.release
                ? t("release_number", { number: form.release.number })
                : t("not_released")}
              {form.release && form.draft_changed && (
                <span className="block text-muted">{t("unreleased_changes")}</span>
              )}
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

/** What fits in all forms, with the way to each. */
function Hits({ asked }: { asked: string }) {
  const hits = useHits(asked).data ?? [];
  const inside = hits.filter((hit) => hit.kind !== "form");
  if (inside.length === 0) return null;
  return (
    <section aria-label={t("found_in_the_forms")} className="mt-6">
      <h2 className="border-b border-edge pb-1 text-xl">{t("in_the_forms")}</h2>
      <ul>
        {inside.map((hit) => (
          <li
            key={`${hit.form}-${hit.kind}-${hit.key}`}
            className="grid grid-cols-[6rem_minmax(0,1fr)_12rem] gap-x-3 border-b border-hairline py-1"
          >
            <span className="text-muted">{hit.kind}</span>
            <Link to={placeOf(hit)} className="text-thistle hover:underline">
              {hit.text}
            </Link>
            <span className="text-right text-muted">{hit.form_name}</span>
          </li>
        ))}
      </ul>
    </section>
  );
}

/** How many findings there are of a form, where there are any. */
function FindingsOf({ counts, formKey }: { counts?: Schemas["FormFindings"]; formKey: string }) {
  if (!counts || counts.wrong + counts.doubtful === 0) return null;
  return (
    <Link
      to={`/forms/${formKey}/findings`}
      className="inline-flex min-h-6 items-center gap-1.5 whitespace-nowrap text-ochre underline"
    >
      <Facet level={counts.wrong > 0 ? "warn" : "note"} size={13} />
      {counted(counts.wrong + counts.doubtful, "finding")}
      {!counts.current && (
        <span title={t("earlier_findings_searching_again")}>
          …<span className="sr-only"> {t("earlier_searching_again")}</span>
        </span>
      )}
    </Link>
  );
}
