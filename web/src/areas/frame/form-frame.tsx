// A form's name, its places, and its release.
import { Link, Outlet, useParams } from "react-router";
import { isUnderWay } from "../../api/jobs";
import { useMay, useRights } from "../../api/session";
import { counted } from "../../ui/counts";
import { Facet } from "../../ui/facet";
import { Page, Waiting } from "../../ui/page";
import { Trouble } from "../../ui/trouble";
import { useCaseCounts } from "../cases/queries";
import { type FormView, useForm, useLiveForm } from "../form/form";
import { FormPlaces } from "./form-places";
import { useLastView } from "./last-view";
import { ReleaseState } from "./release";
import { looksAtForms } from "./stages";
import { Turns } from "./turns";

export function FormFrame() {
  const form = useForm();
  const mayTry = useMay("use_bench");
  const mayLook = looksAtForms(useRights());
  useLastView();
  useLiveForm(useParams().formKey ?? "");
  if (form.error)
    return (
      <Page title="Form" className="p-6">
        <Trouble error={form.error} />
      </Page>
    );
  if (!form.data) return <Waiting>Loading the form…</Waiting>;
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
      ? `${counts.to_run} of ${counted(counts.cases, "case")} to be run again`
      : amiss === 0
        ? `${counted(counts.cases, "case")} ${counts.cases === 1 ? "passes" : "pass"}`
        : `${amiss} of ${counted(counts.cases, "case")} ${amiss === 1 ? "fails" : "fail"}`;
  const level = counts.to_run > 0 ? "note" : amiss ? "block" : "clear";
  return (
    <span role="status" aria-label="How the cases stand">
      <Link
        to={`/forms/${form.key}/cases`}
        className={`flex items-center gap-1.5 whitespace-nowrap hover:underline ${COLOURS[level]}`}
      >
        <Facet level={level} size={14} />
        {isUnderWay(counts.job) ? "cases are being run" : words}
      </Link>
    </span>
  );
}
