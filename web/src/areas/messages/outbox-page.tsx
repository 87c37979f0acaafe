// The outbox: what has arrived for whoever looks, and what went out of each form.

import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Link, useSearchParams } from "react-router";
import { answer, client } from "../../api/client";
import { keys } from "../../api/keys";
import { useRightsIn, useVisitor } from "../../api/session";
import { Button } from "../../ui/button";
import { Chip } from "../../ui/chip";
import { Facet } from "../../ui/facet";
import { LabelledSelect } from "../../ui/labelled-select";
import { Page } from "../../ui/page";
import { SearchBox } from "../../ui/search-box";
import { Trouble } from "../../ui/trouble";
import { writtenMoment } from "../../ui/written";
import { words } from "../../words";
import { LetterSheet } from "./letter";
import { type Line, useBox, useMail, useOutbox, useSendAgain, useWhole } from "./queries";
import { occasionWords, STATES, stateWords } from "./words";

const t = words("messages");

const PAGE = 50;

export function OutboxPage() {
  const [search, setSearch] = useSearchParams();
  const formKey = search.get("form") ?? "";
  const rightsIn = useRightsIn();
  const forms = useQuery({
    queryKey: keys.forms,
    queryFn: () => answer(client.GET("/api/v1/forms")),
  });
  const watched = (forms.data ?? []).filter(({ key }) => rightsIn(key).includes("watch"));
  return (
    <Page title={t("mail")} heading={null} className="mx-auto w-full max-w-5xl px-6 py-8">
      <h1 className="text-4xl">{t("outbox")}</h1>
      <p className="mt-2 font-serif text-lg text-muted">
        {t("every_message_stays_here_as_its_receivers")}
      </p>
      {watched.length > 0 && (
        <fieldset aria-label={t("whose_messages")} className="mt-4 flex flex-wrap gap-1">
          <Chip chosen={formKey === ""} onChoose={() => setSearch({})}>
            {t("to_me")}
          </Chip>
          {watched.map(({ key, name }) => (
            <Chip key={key} chosen={formKey === key} onChoose={() => setSearch({ form: key })}>
              {t("from_name", { name })}
            </Chip>
          ))}
        </fieldset>
      )}
      {formKey === "" ? <Box /> : <FromForm key={formKey} formKey={formKey} />}
    </Page>
  );
}

function Box() {
  const me = useVisitor().data?.name ?? "";
  const [offset, setOffset] = useState(0);
  const box = useBox(me, offset);
  return (
    <section aria-label={t("to_me")}>
      <Trouble error={box.error} />
      {box.data && (
        <p className="mt-4 text-muted">
          {box.data.address
            ? t("to_address", { address: box.data.address })
            : t("your_account_has_no_e_mail_address")}
        </p>
      )}
      {box.data?.address && box.data.mails.length === 0 && (
        <p className="mt-2 border-t border-hairline py-4 text-muted">
          {t("nothing_has_arrived_yet")}
        </p>
      )}
      <ul className="mt-2">
        {box.data?.mails.map((mail) => (
          <Folded key={mail.id} subject={mail.subject} beside={writtenMoment(mail.sent_at)}>
            <Mail me={me} id={mail.id} />
          </Folded>
        ))}
      </ul>
      <Paging offset={offset} more={box.data?.more ?? false} onGo={setOffset} />
    </section>
  );
}

function Mail({ me, id }: { me: string; id: number }) {
  const mail = useMail(me, id);
  if (mail.error) return <Trouble error={mail.error} />;
  return mail.data ? <LetterSheet letter={mail.data} /> : <p className="text-muted">…</p>;
}

function FromForm({ formKey }: { formKey: string }) {
  const [state, setState] = useState<"" | Line["state"]>("");
  const [wanted, setWanted] = useState("");
  const [offset, setOffset] = useState(0);
  const outbox = useOutbox(formKey, { state, search: wanted.trim(), offset });
  return (
    <section aria-label={t("what_went_out")}>
      <div className="mt-4 flex flex-wrap items-baseline gap-4">
        <SearchBox
          label={t("search_in_subjects")}
          placeholder={t("search_in_subjects_2")}
          value={wanted}
          onChange={(to) => {
            setWanted(to);
            setOffset(0);
          }}
        />
        <LabelledSelect
          label={t("how_it_stands")}
          value={state}
          none={t("all")}
          options={STATES}
          onChange={(to) => {
            setState(to as typeof state);
            setOffset(0);
          }}
        />
        <Link to={`/forms/${formKey}/messages`} className="ml-auto text-thistle underline">
          {t("the_messages_as_they_are_written")}
        </Link>
      </div>
      <Trouble error={outbox.error} />
      {outbox.data?.messages.length === 0 && (
        <p className="mt-2 border-t border-hairline py-4 text-muted">
          {wanted || state ? t("nothing_here_is_like_that") : t("nothing_was_to_be_said_yet")}
        </p>
      )}
      <ul className="mt-2">
        {outbox.data?.messages.map((line) => (
          <Folded
            key={line.id}
            subject={line.subject}
            beside={writtenMoment(line.sent_at ?? line.written_at)}
            under={<Standing line={line} formKey={formKey} />}
          >
            <Whole formKey={formKey} id={line.id} />
          </Folded>
        ))}
      </ul>
      <Paging offset={offset} more={outbox.data?.more ?? false} onGo={setOffset} />
    </section>
  );
}

const LEVELS = { waiting: "note", sent: "clear", failed: "warn" } as const;

function Standing({ line, formKey }: { line: Line; formKey: string }) {
  const again = useSendAgain(formKey);
  return (
    <div className="text-sm text-muted">
      <p className="flex flex-wrap items-center gap-x-2">
        <Facet level={LEVELS[line.state]} />
        <span className="text-ink">{stateWords(line.state)}</span>
        <span>
          {t("to_nobody_as", {
            isLength: String(Boolean(line.to.length > 0)),
            join: line.to.join(", "),
          })}{" "}
          <Link to={`/forms/${formKey}/records/${line.number}`} className="underline">
            {t("record_number", { number: line.number })}
          </Link>{" "}
          {t("was_occasion", {
            occasion: occasionWords(line.occasion),
            name: String(Boolean(line.name)),
            name2: line.name,
          })}
        </span>
        {line.next_at && (
          <span>{t("tried_again_next_at", { next_at: writtenMoment(line.next_at) })}</span>
        )}
        {line.state === "failed" && line.to.length > 0 && (
          <Button look="quiet" busy={again.isPending} onClick={() => again.mutate(line.id)}>
            {t("try_it_again")}
          </Button>
        )}
      </p>
      {line.trouble && <p className="whitespace-pre-line text-ochre">{line.trouble}</p>}
      <Trouble error={again.error} />
    </div>
  );
}

function Whole({ formKey, id }: { formKey: string; id: number }) {
  const whole = useWhole(formKey, id);
  if (whole.error) return <Trouble error={whole.error} />;
  return whole.data ? <LetterSheet letter={whole.data.letter} /> : <p className="text-muted">…</p>;
}

type FoldedProps = {
  subject: string;
  beside: string;
  under?: React.ReactNode;
  children: React.ReactNode;
};

/** A line of the list that opens where it stands. */
function Folded({ subject, beside, under, children }: FoldedProps) {
  const [open, setOpen] = useState(false);
  return (
    <li className="border-t border-hairline py-2">
      <button
        type="button"
        aria-expanded={open}
        onClick={() => setOpen(!open)}
        className="flex min-h-6 w-full items-baseline gap-4 text-left hover:text-thistle"
      >
        <span className="min-w-0 grow truncate">{subject || t("no_subject")}</span>
        <span className="text-sm whitespace-nowrap text-muted">{beside}</span>
      </button>
      {under}
      {open && <div className="my-2">{children}</div>}
    </li>
  );
}

type PagingProps = { offset: number; more: boolean; onGo: (offset: number) => void };

function Paging({ offset, more, onGo }: PagingProps) {
  if (offset === 0 && !more) return null;
  return (
    <div className="mt-2 flex gap-2">
      <Button busy={offset === 0} onClick={() => onGo(Math.max(offset - PAGE, 0))}>
        {t("newer")}
      </Button>
      <Button busy={!more} onClick={() => onGo(offset + PAGE)}>
        {t("older")}
      </Button>
    </div>
  );
}
