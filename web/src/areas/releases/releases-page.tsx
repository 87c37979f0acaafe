// What has been released of a form, what each release changed, and taking an earlier one into use.
import { type FormEvent, useState } from "react";
import { useParams } from "react-router";
import type { Schemas } from "../../api/client";
import { useMay } from "../../api/session";
import { useAddress } from "../../ui/address";
import { Button } from "../../ui/button";
import { LabelledSelect } from "../../ui/labelled-select";
import { Page } from "../../ui/page";
import { Sheet } from "../../ui/sheet";
import { Trouble } from "../../ui/trouble";
import { writtenMoment } from "../../ui/written";
import { type FormView, useForm } from "../form/form";
import { Changes } from "./changes";
import { useChanges, useRelease, useReleases } from "./queries";

type Release = Schemas["ReleaseView"];
const DRAFT = "draft";
const USUAL = { before: "", after: "" };

export function ReleasesPage() {
  const { formKey = "" } = useParams();
  const form = useForm().data;
  const releases = useReleases(formKey, form?.release?.number ?? 0);
  return (
    <Page title="Releases" of={form?.name} className="mx-auto w-full max-w-5xl px-6 py-5">
      <Trouble error={releases.error} />
      {releases.data?.length === 0 && (
        <p className="mt-3 border-t border-hairline py-6 text-muted">
          Nothing has been released yet: records can be filled in once the draft is.
        </p>
      )}
      {form && releases.data && releases.data.length > 0 && (
        <>
          <List form={form} releases={releases.data} />
          <Comparison form={form} releases={releases.data} />
        </>
      )}
    </Page>
  );
}

function List({ form, releases }: { form: FormView; releases: Release[] }) {
  const mayRelease = useMay("release");
  const [again, setAgain] = useState<number | null>(null);
  return (
    <>
      <table className="mt-3 w-full border-t border-edge">
        <thead>
          <tr className="border-b border-hairline text-left text-muted *:py-1.5 *:pr-4 *:font-normal">
            <th scope="col">Release</th>
            <th scope="col">Since</th>
            <th scope="col">By</th>
            <th scope="col">What changed, and why</th>
            <th scope="col">
              <span className="sr-only">Take it into use</span>
            </th>
          </tr>
        </thead>
        <tbody>
          {releases.map((release, place) => (
            <tr key={release.number} className="border-b border-hairline align-top *:py-1.5 *:pr-4">
              <th scope="row" className="text-left font-normal whitespace-nowrap">
                {release.number}
                {place === 0 && <span className="text-moss"> in use</span>}
              </th>
              <td className="whitespace-nowrap text-muted">{writtenMoment(release.released_at)}</td>
              <td className="whitespace-nowrap">{release.released_by ?? "—"}</td>
              <td className="w-full">{release.note}</td>
              <td className="whitespace-nowrap">
                {place > 0 && mayRelease && (
                  <Button look="quiet" onClick={() => setAgain(release.number)}>
                    Go back to it…
                  </Button>
                )}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      <Sheet
        title={`Go back to release ${again ?? ""}`}
        wide
        open={again !== null}
        onOpenChange={(open) => !open && setAgain(null)}
      >
        {again !== null && <GoBack form={form} again={again} onDone={() => setAgain(null)} />}
      </Sheet>
    </>
  );
}

type GoBackProps = { form: FormView; again: number; onDone: () => void };

function GoBack({ form, again, onDone }: GoBackProps) {
  const [note, setNote] = useState("");
  const now = form.release?.number ?? null;
  const changes = useChanges(form.key, form.revision, now, again);
  const release = useRelease(form.key, onDone);
  function submit(event: FormEvent) {
    event.preventDefault();
    release.mutate({ note, again });
  }
  return (
    <form onSubmit={submit}>
      <p>
        It becomes a new release with what release {again} says, and the draft stays as it is. From
        then on this is different from release {now}, which is in use:
      </p>
      <Trouble error={changes.error} />
      {changes.data && <Changes changes={changes.data} />}
      <label className="mt-4 block">
        Why
        <textarea
          className="line-input mt-1 block w-full"
          rows={2}
          required
          minLength={3}
          value={note}
          onChange={(event) => setNote(event.target.value)}
        />
      </label>
      <Trouble error={release.error} />
      <Button look="solid" type="submit" className="mt-3" busy={release.isPending}>
        Release it
      </Button>
    </form>
  );
}

function Comparison({ form, releases }: { form: FormView; releases: Release[] }) {
  const [asked, ask] = useAddress(USUAL);
  const numbers = releases.map(({ number }) => number);
  const known = (text: string) => numbers.find((number) => String(number) === text) ?? null;
  const [newest = 0, former = newest] = numbers;
  // Without more: what the draft changes; where it changes nothing, what the newest release did.
  const usual = form.draft_changed ? [newest, null] : [former, newest];
  const read = (text: string, otherwise: number | null) => (text === "" ? otherwise : known(text));
  const before = read(asked.before, usual[0] ?? null);
  const after = read(asked.after, usual[1] ?? null);
  const changes = useChanges(form.key, form.revision, before, after);
  const options: [string, string][] = [
    [DRAFT, "the draft"],
    ...numbers.map((number): [string, string] => [String(number), `release ${number}`]),
  ];
  return (
    <section aria-labelledby="comparison-title" className="mt-8">
      <div className="flex flex-wrap items-baseline gap-x-4 gap-y-2">
        <h3 id="comparison-title" className="text-2xl">
          What is different
        </h3>
        <LabelledSelect
          label="from"
          value={String(before ?? DRAFT)}
          options={options}
          onChange={(next) => ask({ before: next })}
        />
        <LabelledSelect
          label="to"
          value={String(after ?? DRAFT)}
          options={options}
          onChange={(next) => ask({ after: next })}
        />
      </div>
      <Trouble error={changes.error} />
      {changes.data && <Changes changes={changes.data} />}
    </section>
  );
}
