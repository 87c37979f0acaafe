// A form's name, its places, and its release.
import { useMutation, useQueryClient } from "@tanstack/react-query";
import { type FormEvent, useState } from "react";
import { Link, NavLink, Outlet, useParams } from "react-router";
import { answer, client } from "../../api/client";
import { useMay } from "../../api/session";
import { useAddress } from "../../ui/address";
import { Button } from "../../ui/button";
import { counted } from "../../ui/counts";
import { Facet } from "../../ui/facet";
import { useNotify } from "../../ui/notices";
import { Page, Waiting } from "../../ui/page";
import { Sheet } from "../../ui/sheet";
import { Trouble } from "../../ui/trouble";
import { isUnderWay, useCaseCounts } from "../cases/queries";
import { type FormView, useForm } from "../form/form";
import { lastView, useLastView } from "./last-view";
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
          <h1 className="text-3xl">{form.data.name}</h1>
          <p className="text-muted">{form.data.purpose}</p>
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

const NOTHING_OPEN = { sheet: "" };

function ReleaseState({ form }: { form: FormView }) {
  const mayRelease = useMay("release");
  const [{ sheet }, ask] = useAddress(NOTHING_OPEN);
  const open = sheet === "release" && mayRelease && form.draft_changed;
  const state = form.release
    ? `Release ${form.release.number} is in use${form.draft_changed ? "; the draft differs" : ""}.`
    : "Not released yet.";
  return (
    <div className="flex items-center gap-3">
      <span className="text-muted">{state}</span>
      {mayRelease && form.draft_changed && (
        <Button look="solid" onClick={() => ask({ sheet: "release" })}>
          Release the draft…
        </Button>
      )}
      <ReleaseSheet form={form} open={open} onOpenChange={(next) => !next && ask(NOTHING_OPEN)} />
    </div>
  );
}

type SheetProps = { form: FormView; open: boolean; onOpenChange: (open: boolean) => void };

function ReleaseSheet({ form, open, onOpenChange }: SheetProps) {
  const [note, setNote] = useState("");
  const counts = useCaseCounts(form.key, form.revision).data;
  const amiss = counts ? counts.disagreeing + counts.cannot_run : 0;
  const queries = useQueryClient();
  const notify = useNotify();
  const release = useMutation({
    mutationFn: () =>
      answer(
        client.POST("/api/forms/{form_key}/releases", {
          params: { path: { form_key: form.key } },
          body: { note },
        }),
      ),
    onSuccess: (made) => {
      queries.invalidateQueries();
      setNote("");
      onOpenChange(false);
      notify({ text: `Release ${made.number} is in use from now on.` });
    },
  });
  function submit(event: FormEvent) {
    event.preventDefault();
    release.mutate();
  }
  return (
    <Sheet title="Release the draft" open={open} onOpenChange={onOpenChange}>
      <form onSubmit={submit}>
        <p>
          From then on every record is judged by{" "}
          {counted(form.rules.filter((r) => r.rule.on).length, "rule")}. Records already stored stay
          as they are.
        </p>
        {amiss > 0 && (
          <p className="mt-2 flex items-center gap-1.5 text-madder">
            <Facet level="block" size={14} />
            {amiss} of {counts?.cases} cases {amiss === 1 ? "does" : "do"} not agree with the draft.
          </p>
        )}
        <label className="mt-4 block">
          What changed, and why
          <textarea
            className="line-input mt-1 block w-full"
            rows={3}
            required
            minLength={3}
            spellCheck
            value={note}
            onChange={(event) => setNote(event.target.value)}
          />
        </label>
        <div className="mt-4">
          <Trouble error={release.error} />
        </div>
        <Button look="solid" type="submit" className="mt-3" busy={release.isPending}>
          Release
        </Button>
      </form>
    </Sheet>
  );
}
