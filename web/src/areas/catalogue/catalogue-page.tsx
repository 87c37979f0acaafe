// All forms as a register, with what can stop or warn in each.
import { useQuery } from "@tanstack/react-query";
import { type ReactNode, useState } from "react";
import { Link } from "react-router";
import { answer, client, type Schemas } from "../../api/client";
import { Facet, type Level } from "../../ui/facet";
import { SearchBox } from "../../ui/search-box";
import { Trouble } from "../../ui/trouble";
import { BeginForm } from "./begin-form";

type Summary = Schemas["FormSummary"];

export function CataloguePage() {
  const forms = useQuery({
    queryKey: ["forms"],
    queryFn: () => answer(client.GET("/api/forms")),
  });
  const [search, setSearch] = useState("");
  const [withRules, setWithRules] = useState(false);
  const wanted = search.trim().toLowerCase();
  const shown = forms.data?.filter(
    (form) =>
      (!withRules || form.rules > 0) &&
      `${form.name} ${form.purpose}`.toLowerCase().includes(wanted),
  );
  return (
    <main id="main" className="mx-auto w-full max-w-6xl px-6 py-8">
      <div className="flex flex-wrap items-end gap-x-6 gap-y-3">
        <h1 className="mr-auto text-4xl">Forms</h1>
        <label className="flex items-center gap-2">
          <input
            type="checkbox"
            className="size-4 accent-thistle"
            checked={withRules}
            onChange={(event) => setWithRules(event.target.checked)}
          />
          with rules only
        </label>
        <SearchBox
          label="Search the forms"
          placeholder="Search the forms"
          value={search}
          onChange={setSearch}
        />
        <BeginForm />
      </div>
      <Trouble error={forms.error} />
      {shown &&
        (shown.length > 0 ? (
          <Register forms={shown} />
        ) : (
          <Nothing any={forms.data?.length !== 0} />
        ))}
    </main>
  );
}

function Nothing({ any }: { any: boolean }) {
  return (
    <p className="mt-10 border-t border-hairline pt-6 text-muted">
      {any
        ? "No form fits. Clear the search, or take the tick off “with rules only”."
        : "There is no form yet. Begin the first one."}
    </p>
  );
}

function Register({ forms }: { forms: Summary[] }) {
  return (
    <table className="mt-6 w-full border-t border-b border-edge">
      <thead className="text-left text-muted">
        <tr className="border-b border-hairline align-bottom *:px-3 *:py-2 *:font-normal">
          <th>Form</th>
          <Head>Fields</Head>
          <Head>Demanded</Head>
          <Head>Rules</Head>
          <Head level="warn">Can warn</Head>
          <Head level="block">Can stop a save</Head>
          <Head level="block">Can stop a submit</Head>
          <Head>Records</Head>
          <th>Release</th>
        </tr>
      </thead>
      <tbody>
        {forms.map((form) => (
          <tr key={form.key} className="border-b border-hairline align-top *:px-3 *:py-3">
            <td>
              <Link to={`/forms/${form.key}/rules`} className="font-serif text-xl text-thistle">
                {form.name}
              </Link>
              <p className="text-muted">{form.purpose}</p>
            </td>
            <Count>
              <Link to={`/forms/${form.key}/fields`} className="underline decoration-hairline">
                {form.fields}
              </Link>
            </Count>
            <Count>{form.mandatory_fields}</Count>
            <Count>{form.rules}</Count>
            <Count>{form.can_warn}</Count>
            <Count>{form.can_block_save}</Count>
            <Count>{form.can_block_submit}</Count>
            <Count>
              <Link to={`/forms/${form.key}/records`} className="underline decoration-hairline">
                {form.records.toLocaleString("en")}
              </Link>
            </Count>
            <td>
              {form.release ? `Release ${form.release.number}` : "Not released"}
              {form.release && form.draft_changed && (
                <span className="block text-muted">the draft differs</span>
              )}
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

function Head({ level, children }: { level?: Level; children: ReactNode }) {
  return (
    <th className="max-w-24 text-right">
      {level && <Facet level={level} size={13} />} {children}
    </th>
  );
}

function Count({ children }: { children: ReactNode }) {
  return <td className="text-right text-lg">{children}</td>;
}
