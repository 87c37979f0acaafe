// A form's name, its places, and its release.
import { Link, Outlet, useParams } from "react-router";
import { isUnderWay } from "../../api/jobs";
import { useMay, useRights } from "../../api/session";
import { Facet } from "../../ui/facet";
import { Page, Waiting } from "../../ui/page";
import { Trouble } from "../../ui/trouble";
import { writtenNumber } from "../../ui/written";
import { words } from "../../words";
import { useCaseCounts } from "../cases/queries";
import { type FormView, useForm, useLiveForm } from "../form/form";
import { FormPlaces } from "./form-places";
import { useLastView } from "./last-view";
import { ReleaseState } from "./release";
import { looksAtForms } from "./stages";
import { Turns } from "./turns";

const t = words("frame");

export function FormFrame() {
  const form = useForm();
  const mayTry = useMay("use_bench");
  const mayLook = looksAtForms(useRights());
  useLastView();
  useLiveForm(useParams().formKey ?? "");
  if (form.error)
    return (
      <Page title={t("form")} className="p-6">
        <Trouble error={form.error} />
      </Page>
    );
  if (!form.data) return <Waiting>{t("loading_the_form")}</Waiting>;
  return (
    <>
      <div className="border-b border-hairline px-6 pt-4">
        {/* One line, whatever it says: a page never moves under a hand as work begins or ends. */}
        <div className="flex min-h-10 items-baseline gap-6">
          <h1 className="text-3xl whitespace-nowrap">{form.data.name}</h1>
          <p className="min-w-0 flex-1 truncate text-muted" title={form.data.purpose}>
            {form.data.purpose}
          </p>
          <div className="ml-auto flex min-w-0 items-center gap-3 self-center">
            {mayTry && <CaseStatus form={form.data} />}
            {mayLook && (
              <>
                <Turns formKey={form.data.key} />
                <ReleaseState form={form.data} />
              </>
            )}
          </div>
        </div>
        <FormPlaces name={form.data.name} />
      </div>
      <Outlet />
    </>
  );
}

const COLOURS = { note: "text-muted", block: "text-madder", clear: "text-moss" };

/** How many kept cases fail with the rules as they are. */
function CaseStatus({ form }: { form: FormView }) {
  const counts = useCaseCounts(form.key, form.revision).data;
  if (!counts || counts.cases === 0) return null;
  const amiss = counts.failing + counts.cannot_run;
  const words =
    counts.to_run > 0
      ? t("to_run_of_cases_cases_to_be", {
          to_run: counts.to_run,
          cases: counts.cases,
          casesShown: writtenNumber(counts.cases),
        })
      : amiss === 0
        ? t("cases_pass", { count: counts.cases, shown: writtenNumber(counts.cases) })
        : t("amiss_of_cases_cases_fail", {
            amiss,
            cases: counts.cases,
            casesShown: writtenNumber(counts.cases),
          });
  const level = counts.to_run > 0 ? "note" : amiss ? "block" : "clear";
  return (
    <span role="status" aria-label={t("how_the_cases_stand")}>
      <Link
        to={`/forms/${form.key}/cases`}
        className={`flex items-center gap-1.5 whitespace-nowrap hover:underline ${COLOURS[level]}`}
      >
        <Facet level={level} size={14} />
        {isUnderWay(counts.job) ? t("cases_are_being_run") : words}
      </Link>
    </span>
  );
}
