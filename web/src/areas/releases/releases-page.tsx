// What has been released of a form, what each release changed, and taking an earlier one into use.
import { type FormEvent, useState } from "react";
import { Link, useParams } from "react-router";
import type { Schemas } from "../../api/client";
import { useMay } from "../../api/session";
import { useAddress } from "../../ui/address";
import { Button } from "../../ui/button";
import { LabelledSelect } from "../../ui/labelled-select";
import { Page } from "../../ui/page";
import { Sheet } from "../../ui/sheet";
import { Trouble } from "../../ui/trouble";
import { writtenMoment, writtenNumber } from "../../ui/written";
import { words } from "../../words";
import { type FormView, useForm } from "../form/form";
import { Changes } from "./changes";
import { isGrave, Known } from "./known";
import { useChanges, useReleases, useWithdraw } from "./queries";

const t = words("releases");

type Release = Schemas["ReleaseDetails"];
const DRAFT = "draft";
const USUAL = { before: "", after: "" };

export function ReleasesPage() {
  const { formKey = "" } = useParams();
  const form = useForm().data;
  const releases = useReleases(formKey, form?.waiting?.number ?? form?.release?.number ?? 0);
  return (
    <Page title={t("releases")} of={form?.name} className="mx-auto w-full max-w-5xl px-6 py-5">
      <Trouble error={releases.error} />
      {releases.data?.length === 0 && (
        <p className="mt-3 border-t border-hairline py-6 text-muted">
          {t("nothing_has_been_released_yet_records_can")}
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
  const [withdrawn, setWithdrawn] = useState<number | null>(null);
  return (
    <>
      <table className="mt-3 w-full border-t border-edge">
        <thead>
          <tr className="border-b border-hairline text-left text-muted *:py-1.5 *:pr-4 *:font-normal">
            <th scope="col">{t("release")}</th>
            <th scope="col">{t("in_force_from")}</th>
            <th scope="col">{t("released_by")}</th>
            <th scope="col">{t("what_changed_and_why")}</th>
            <th scope="col">
              <span className="sr-only">{t("what_can_be_done_with_it")}</span>
            </th>
          </tr>
        </thead>
        <tbody>
          {releases.map((release) => (
            <tr key={release.number} className="border-b border-hairline align-top *:py-1.5 *:pr-4">
              <th scope="row" className="text-left font-normal whitespace-nowrap">
                {release.number} <Standing release={release} />
              </th>
              <td className="whitespace-nowrap text-muted">
                {writtenMoment(release.in_force_from)}
              </td>
              <td className="whitespace-nowrap">{release.released_by ?? "—"}</td>
              <td className="w-full">
                {release.note}
                {release.withdrawn && (
                  <p className="text-sm text-muted">
                    {t("withdrawn_by_withdrawn", { withdrawn: release.withdrawn })}
                  </p>
                )}
                <WasKnown formKey={form.key} release={release} />
              </td>
              <td className="whitespace-nowrap">
                {mayRelease && release.standing === "scheduled" && (
                  <Button look="quiet" onClick={() => setWithdrawn(release.number)}>
                    {t("withdraw_it")}
                  </Button>
                )}
                {mayRelease && release.standing === "superseded" && !form.waiting && (
                  <Link
                    to={`/forms/${form.key}/releases/draft?again=${release.number}`}
                    className="inline-flex min-h-8 items-center px-3 py-1 text-thistle hover:bg-tint"
                  >
                    {t("go_back_to_it")}
                  </Link>
                )}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      <Sheet
        title={t("withdraw_release_value", { value: withdrawn ?? "" })}
        open={withdrawn !== null}
        onOpenChange={(open) => !open && setWithdrawn(null)}
      >
        {withdrawn !== null && (
          <Withdrawing form={form} number={withdrawn} onDone={() => setWithdrawn(null)} />
        )}
      </Sheet>
    </>
  );
}

const STANDING_WORDS = {
  in_force: t("in_force"),
  scheduled: t("scheduled"),
  withdrawn: t("withdrawn"),
};

function Standing({ release }: { release: Release }) {
  if (release.standing === "superseded") return null;
  const look = { in_force: "text-moss", scheduled: "text-ochre", withdrawn: "text-muted" };
  return <span className={look[release.standing]}>{STANDING_WORDS[release.standing]}</span>;
}

/** What whoever released it knew. */
function WasKnown({ formKey, release }: { formKey: string; release: Release }) {
  const grave = release.known.filter(isGrave).length;
  if (release.known.length === 0) return null;
  return (
    <details className="mt-0.5 text-sm">
      <summary className="w-fit cursor-pointer text-thistle">
        {t("what_was_known", {
          isGrave: String(Boolean(grave > 0)),
          grave,
          graveShown: writtenNumber(grave),
        })}
      </summary>
      <Known formKey={formKey} known={release.known} leads={false} />
      <p className="mt-1 text-muted">
        {t.rich("its_document_by_sha_256_hash", {
          code: (chunks) => <code className="break-all">{chunks}</code>,
          hash: release.hash,
        })}
      </p>
    </details>
  );
}

type WithdrawingProps = { form: FormView; number: number; onDone: () => void };

function Withdrawing({ form, number, onDone }: WithdrawingProps) {
  const [why, setWhy] = useState("");
  const withdraw = useWithdraw(form.key, onDone);
  function submit(event: FormEvent) {
    event.preventDefault();
    withdraw.mutate({ number, why });
  }
  return (
    <form onSubmit={submit}>
      <p>{t("it_never_comes_into_force_what_is")}</p>
      <label className="mt-4 block">
        {t("why")}
        <textarea
          className="line-input mt-1 block w-full"
          rows={2}
          required
          minLength={3}
          value={why}
          onChange={(event) => setWhy(event.target.value)}
        />
      </label>
      <Trouble error={withdraw.error} />
      <Button look="solid" type="submit" className="mt-3" busy={withdraw.isPending}>
        {t("withdraw_it_2")}
      </Button>
    </form>
  );
}

function Comparison({ form, releases }: { form: FormView; releases: Release[] }) {
  const [asked, ask] = useAddress(USUAL);
  const numbers = releases.map(({ number }) => number);
  const known = (text: string) => numbers.find((number) => String(number) === text) ?? null;
  const [newest = 0, former = newest] = releases
    .filter(({ standing }) => standing !== "withdrawn")
    .map(({ number }) => number);
  // Without more: what the draft changes; where it changes nothing, what the newest release did.
  const usual = form.draft_changed ? [newest, null] : [former, newest];
  const read = (text: string, otherwise: number | null) => (text === "" ? otherwise : known(text));
  const before = read(asked.before, usual[0] ?? null);
  const after = read(asked.after, usual[1] ?? null);
  const changes = useChanges(form.key, form.revision, before, after);
  const options: [string, string][] = [
    [DRAFT, t("the_draft")],
    ...numbers.map((number): [string, string] => [String(number), t("release_number", { number })]),
  ];
  return (
    <section aria-labelledby="comparison-title" className="mt-8">
      <div className="flex flex-wrap items-baseline gap-x-4 gap-y-2">
        <h3 id="comparison-title" className="text-2xl">
          {t("what_is_different")}
        </h3>
        <LabelledSelect
          label={t("from")}
          value={String(before ?? DRAFT)}
          options={options}
          onChange={(next) => ask({ before: next })}
        />
        <LabelledSelect
          label={t("to")}
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
