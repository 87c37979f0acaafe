// Links by which a form is filled in without an account.
import { Copy } from "lucide-react";
import { useState } from "react";
import { Button } from "../../ui/button";
import { useNotify } from "../../ui/notices";
import { Sentence } from "../../ui/sentence";
import { ProblemList, Trouble } from "../../ui/trouble";
import { writtenDay, writtenMoment, writtenNumber } from "../../ui/written";
import { words } from "../../words";
import type { FormView } from "../form/form";
import { LinkEditor } from "./link-editor";
import { type LinkView, useEndLink, useLinks } from "./link-queries";

const t = words("access");

export function Links({ form }: { form: FormView }) {
  const links = useLinks(form.key);
  const [open, setOpen] = useState<number | "new" | null>(null);
  const close = () => setOpen(null);
  const offers = links.data?.offers ?? [];
  return (
    <section aria-label={t("links")}>
      <div className="flex items-baseline gap-4">
        <p className="mr-auto max-w-3xl">
          {t.rich("anyone_with_the_link_can_fill_in", { i: (chunks) => <i>{chunks}</i> })}
        </p>
        {open !== "new" && (
          <Button look="solid" onClick={() => setOpen("new")}>
            {t("create_link_2")}
          </Button>
        )}
      </div>
      {open === "new" && <LinkEditor form={form} link={null} offers={offers} onClose={close} />}
      <Trouble error={links.error} />
      {links.data?.links.length === 0 && open !== "new" && (
        <p className="mt-3 border-t border-hairline py-4 text-muted">
          {t("no_links_yet_create_one_and_give")}
        </p>
      )}
      <ul className="mt-3">
        {links.data?.links.map((link) => (
          <li key={link.id} className="border-t border-hairline py-3">
            {open === link.id ? (
              <LinkEditor form={form} link={link} offers={offers} onClose={close} />
            ) : (
              <LinkRow form={form} link={link} onOpen={() => setOpen(link.id)} />
            )}
          </li>
        ))}
      </ul>
    </section>
  );
}

type RowProps = { form: FormView; link: LinkView; onOpen: () => void };

function LinkRow({ form, link, onOpen }: RowProps) {
  const end = useEndLink(form.key);
  const notify = useNotify();
  const { entry, closed, taken } = link;
  const at = window.location.origin;
  async function copy(text: string, what: string) {
    await navigator.clipboard.writeText(text);
    notify({ text: t("what_is_copied", { what }) });
  }
  const address = `${at}/fill/${link.key}`;
  const frame = `<iframe src="${at}/embed/${link.key}" title="${form.name}" width="100%" height="800"></iframe>`;
  return (
    <div className={closed ? "text-muted" : ""}>
      <div className="flex items-start gap-4">
        <div className="min-w-0 grow">
          <h3 className="text-lg">{entry.name}</h3>
          {closed ? (
            <p>{closed}</p>
          ) : (
            <p className="flex flex-wrap items-center gap-2">
              <a href={address} className="font-mono text-sm break-all text-thistle underline">
                {address}
              </a>
              <Button
                look="quiet"
                aria-label={t("copy_the_link_name", { name: entry.name })}
                onClick={() => copy(address, t("the_link"))}
              >
                <Copy size={15} aria-hidden="true" /> {t("copy")}
              </Button>
            </p>
          )}
          <p>
            {t("taken_records_came_by_it", {
              taken,
              takenShown: writtenNumber(taken),
              most: String(Boolean(entry.most)),
              most2: writtenNumber(entry.most ?? 0),
              last_day: String(Boolean(entry.last_day)),
              last_day2: entry.last_day ? writtenDay(entry.last_day) : "",
              layout: String(Boolean(entry.layout)),
              form: layoutLabel(form, entry.layout),
              notPuzzle: String(Boolean(!entry.puzzle)),
            })}
          </p>
          {entry.endings.map((ending, place) => (
            <p key={`${ending.condition} ${ending.text}`} className="text-sm text-muted">
              {(link.conditions[place]?.length ?? 0) > 0 ? (
                <>
                  {t("when")} <Sentence segments={link.conditions[place] ?? []} />:{" "}
                </>
              ) : (
                <>{t("in_the_end")} </>
              )}
              {ending.text && `“${ending.text}”`} {ending.next_page && `→ ${ending.next_page}`}
            </p>
          ))}
          {entry.origins.length > 0 && !closed && (
            <details className="mt-1">
              <summary className="cursor-pointer text-thistle">
                {t("inside_pages_of_join", { join: entry.origins.join(", ") })}
              </summary>
              <pre className="overflow-x-auto border border-hairline bg-leaf px-3 py-1 font-mono text-sm">
                {frame}
              </pre>
              <Button look="quiet" onClick={() => copy(frame, t("what_is_put_into_the_page"))}>
                <Copy size={15} aria-hidden="true" /> {t("copy_it_for_the_page")}
              </Button>
            </details>
          )}
          <p className="text-sm text-muted">
            {link.made_by && `${link.made_by}, `}
            {writtenMoment(link.created_at)}
          </p>
          {link.problems.length > 0 && !closed && (
            <div className="text-madder">
              <ProblemList items={link.problems} />
            </div>
          )}
        </div>
        {!closed && (
          <>
            <Button
              look="quiet"
              aria-label={t("change_name", { name: entry.name })}
              onClick={onOpen}
            >
              {t("change_it")}
            </Button>
            <Button
              look="quiet"
              busy={end.isPending}
              aria-label={t("end_name", { name: entry.name })}
              onClick={() => end.mutate(link.id)}
            >
              {t("revoke")}
            </Button>
          </>
        )}
      </div>
      <Trouble error={end.error} />
    </div>
  );
}

function layoutLabel(form: FormView, key: string) {
  return form.setup.layouts.find((one) => one.key === key)?.label ?? key;
}
