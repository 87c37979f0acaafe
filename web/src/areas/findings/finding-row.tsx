// One finding: what it says, the record that shows it, and what can be done about it.
import { useState } from "react";
import { Link, useNavigate } from "react-router";
import { Button } from "../../ui/button";
import { Facet } from "../../ui/facet";
import { writtenMoment } from "../../ui/written";
import { words } from "../../words";
import { useKeepSeveral } from "../cases/queries";
import type { FormView } from "../form/form";
import { AsideSheet } from "./aside-sheet";
import { FixSheet } from "./fix-sheet";
import { type Finding, useAside } from "./queries";

const t = words("findings");

type Props = { form: FormView; finding: Finding; mayEdit: boolean; current: boolean };

export function FindingRow({ form, finding, mayEdit, current }: Props) {
  const { gravity, title, says, how, rules, witness, aside, beneath } = finding;
  return (
    <li className="border-b border-hairline py-3">
      <div className="flex items-start gap-3">
        <span className="mt-1">
          <Facet level={gravity === "wrong" ? "warn" : "note"} />
        </span>
        <div className="min-w-0 grow">
          <p className="text-sm text-muted">{title}</p>
          <p className={aside ? "text-muted" : ""}>{says}</p>
          <p className="mt-0.5 text-muted">{how}</p>
          {beneath.length > 0 && (
            <ul
              aria-label={t("of_the_same_cause")}
              className="mt-1 border-l-2 border-edge pl-3 text-sm"
            >
              {beneath.map((other) => (
                <li key={other}>{other}</li>
              ))}
            </ul>
          )}
          {witness && witness.entries.length > 0 && (
            <details className="mt-1">
              <summary className="cursor-pointer text-thistle">
                {t("a_record_that_shows_it")}
              </summary>
              <ul className="columns-2 pl-4 text-sm">
                {witness.entries.map((entry) => (
                  <li key={entry}>{entry}</li>
                ))}
              </ul>
            </details>
          )}
          {witness && witness.entries.length === 0 && (
            <p className="mt-1 text-sm">{t("an_empty_record_shows_it")}</p>
          )}
          {aside && (
            <p className="mt-1 border-l-2 border-edge pl-3 text-muted">
              {t("dismissed_by_by_at_reason", {
                by: aside.by,
                at: writtenMoment(aside.at),
                reason: aside.reason,
              })}
            </p>
          )}
          <div className="mt-1 flex flex-wrap items-center gap-x-4 gap-y-1">
            {rules.map(({ key, name }) => (
              <Link
                key={key}
                to={`/forms/${form.key}/rules?rule=${key}`}
                className="inline-flex min-h-6 items-center text-sm underline"
              >
                {name}
              </Link>
            ))}
          </div>
        </div>
        <Acts form={form} finding={finding} mayEdit={mayEdit && current} />
      </div>
    </li>
  );
}

function Acts({ form, finding, mayEdit }: Omit<Props, "current">) {
  const { fingerprint, witness, fix, aside } = finding;
  const navigate = useNavigate();
  const keep = useKeepSeveral(form.key);
  const takeUp = useAside(form.key, form.revision);
  const [asked, setAsked] = useState<"" | "aside" | "fix">("");
  const close = (open: boolean) => !open && setAsked("");
  return (
    <div className="flex w-40 shrink-0 flex-col items-stretch gap-1">
      {witness && (
        <Button
          look="quiet"
          onClick={() => navigate(`/forms/${form.key}/bench`, { state: { case: witness.case } })}
        >
          {t("on_the_bench")}
        </Button>
      )}
      {mayEdit && witness && !aside && (
        <Button
          look="quiet"
          busy={keep.isPending || keep.isSuccess}
          onClick={() => keep.mutate([witness.case])}
        >
          {keep.isSuccess ? t("kept") : t("save_as_case")}
        </Button>
      )}
      {mayEdit && fix && !aside && (
        <Button onClick={() => setAsked("fix")}>{t("correct_it")}</Button>
      )}
      {mayEdit && !aside && (
        <Button look="quiet" onClick={() => setAsked("aside")}>
          {t("dismiss")}
        </Button>
      )}
      {mayEdit && aside && (
        <Button
          look="quiet"
          busy={takeUp.isPending}
          onClick={() => takeUp.mutate({ fingerprint, reason: null })}
        >
          {t("take_it_up_again")}
        </Button>
      )}
      <AsideSheet form={form} finding={finding} open={asked === "aside"} onOpenChange={close} />
      <FixSheet form={form} finding={finding} open={asked === "fix"} onOpenChange={close} />
    </div>
  );
}
