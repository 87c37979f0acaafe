// Links by which a form is filled in without an account.
import { Copy } from "lucide-react";
import { useState } from "react";
import { Button } from "../../ui/button";
import { counted } from "../../ui/counts";
import { useNotify } from "../../ui/notices";
import { Sentence } from "../../ui/sentence";
import { ProblemList, Trouble } from "../../ui/trouble";
import { writtenDay, writtenMoment, writtenNumber } from "../../ui/written";
import type { FormView } from "../form/form";
import { LinkEditor } from "./link-editor";
import { type LinkView, useEndLink, useLinks } from "./link-queries";

export function Links({ form }: { form: FormView }) {
  const links = useLinks(form.key);
  const [open, setOpen] = useState<number | "new" | null>(null);
  const close = () => setOpen(null);
  const offers = links.data?.offers ?? [];
  return (
    <section aria-label="Links">
      <div className="flex items-baseline gap-4">
        <p className="mr-auto max-w-3xl">
          Anyone with the link can fill in and submit this form without an account. Records are
          judged as at the desk, at the entry point <i>link</i>; rules for some roles only do not
          count.
        </p>
        {open !== "new" && (
          <Button look="solid" onClick={() => setOpen("new")}>
            Create link…
          </Button>
        )}
      </div>
      {open === "new" && <LinkEditor form={form} link={null} offers={offers} onClose={close} />}
      <Trouble error={links.error} />
      {links.data?.links.length === 0 && open !== "new" && (
        <p className="mt-3 border-t border-hairline py-4 text-muted">
          No links yet. Create one and give it to the people who fill in this form.
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
    notify({ text: `${what} is copied.` });
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
                aria-label={`Copy the link ${entry.name}`}
                onClick={() => copy(address, "The link")}
              >
                <Copy size={15} aria-hidden="true" /> Copy
              </Button>
            </p>
          )}
          <p>
            {counted(taken, "record")} came by it
            {entry.most && ` of ${writtenNumber(entry.most)} at most`}
            {entry.last_day && `, until ${writtenDay(entry.last_day)}`}
            {entry.layout && `, on the layout ${layoutLabel(form, entry.layout)}`}
            {!entry.puzzle && ", without a puzzle against robots"}.
          </p>
          {entry.endings.map((ending, place) => (
            <p key={`${ending.condition} ${ending.text}`} className="text-sm text-muted">
              {(link.conditions[place]?.length ?? 0) > 0 ? (
                <>
                  When <Sentence segments={link.conditions[place] ?? []} />:{" "}
                </>
              ) : (
                "In the end: "
              )}
              {ending.text && `“${ending.text}”`} {ending.next_page && `→ ${ending.next_page}`}
            </p>
          ))}
          {entry.origins.length > 0 && !closed && (
            <details className="mt-1">
              <summary className="cursor-pointer text-thistle">
                inside pages of {entry.origins.join(", ")}
              </summary>
              <pre className="overflow-x-auto border border-hairline bg-leaf px-3 py-1 font-mono text-sm">
                {frame}
              </pre>
              <Button look="quiet" onClick={() => copy(frame, "What is put into the page")}>
                <Copy size={15} aria-hidden="true" /> Copy it for the page
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
            <Button look="quiet" aria-label={`Change ${entry.name}`} onClick={onOpen}>
              Change it
            </Button>
            <Button
              look="quiet"
              busy={end.isPending}
              aria-label={`End ${entry.name}`}
              onClick={() => end.mutate(link.id)}
            >
              Revoke
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
