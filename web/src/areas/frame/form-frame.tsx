// A form's name, its places, and its release.
import { Link, NavLink, Outlet, useParams } from "react-router";
import { isUnderWay } from "../../api/jobs";
import { useMay } from "../../api/session";
import { counted } from "../../ui/counts";
import { Facet } from "../../ui/facet";
import { Page, Waiting } from "../../ui/page";
import { Trouble } from "../../ui/trouble";
import { useCaseCounts } from "../cases/queries";
import { type FormView, useForm } from "../form/form";
import { lastView, useLastView } from "./last-view";
import { ReleaseState } from "./release";
import { Turns } from "./turns";

export function FormFrame() {
  const form = useForm();
  const mayTry = useMay("use_bench");
  useLastView();
  if (form.error)
    return (
      <Page title="Form" className="p-6">
        <Trouble error={form.error} />
      </Page>
    );
  if (!form.data) return <Waiting>The form is being fetched.</Waiting>;
  return (
    <>
      <div className="border-b border-hairline px-6 pt-4">
        <div className="flex items-baseline gap-6">
          <h1 className="text-3xl whitespace-nowrap">{form.data.name}</h1>
          <p className="min-w-0 truncate text-muted" title={form.data.purpose}>
            {form.data.purpose}
          </p>
          <div className="ml-auto flex items-center gap-3">
            {mayTry && <Disagreeing form={form.data} />}
            <Turns formKey={form.data.key} />
            <ReleaseState form={form.data} />
          </div>
        </div>
        <nav aria-label={`Places of ${form.data.name}`} className="mt-2 flex gap-6">
          <Place to="fields">Fields</Place>
          <Place to="rules">Rules</Place>
          <Place to="plan">Plan</Place>
          <Place to="setup">Set-up</Place>
          {mayTry && (
            <>
              <Place to="bench">Bench</Place>
              <Place to="cases">Cases</Place>
              <Place to="proof">Proof</Place>
            </>
          )}
          <Place to="records">Records</Place>
          <Place to="history">History</Place>
        </nav>
      </div>
      <Outlet />
    </>
  );
}

function Place({ to, children }: { to: string; children: string }) {
  const { formKey = "" } = useParams();
  return (
    <NavLink
      to={lastView(`/forms/${formKey}/${to}`)}
      className={({ isActive }) =>
        `border-b-3 px-0.5 py-1.5 ${isActive ? "border-thistle font-semibold" : "border-transparent hover:border-hairline"}`
      }
    >
      {children}
    </NavLink>
  );
}

/** How many kept cases do not agree with the rules as they are. */
function Disagreeing({ form }: { form: FormView }) {
  const counts = useCaseCounts(form.key, form.revision).data;
  if (!counts || counts.cases === 0) return null;
  const amiss = counts.disagreeing + counts.cannot_run;
  const words =
    amiss === 0
      ? `${counted(counts.cases, "case")} ${counts.cases === 1 ? "agrees" : "agree"}`
      : `${amiss} of ${counts.cases} cases ${amiss === 1 ? "does" : "do"} not agree`;
  return (
    <span role="status" aria-label="How the cases stand">
      <Link
        to={`/forms/${form.key}/cases`}
        className={`flex items-center gap-1.5 whitespace-nowrap hover:underline ${amiss ? "text-madder" : "text-moss"}`}
      >
        <Facet level={amiss ? "block" : "clear"} size={14} />
        {isUnderWay(counts.job) ? "cases are being run" : words}
      </Link>
    </span>
  );
}
