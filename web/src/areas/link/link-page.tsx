// A form filled in by a link: no account, nothing but the form and what is said at its end.

import { useQuery } from "@tanstack/react-query";
import type { KeyboardEvent } from "react";
import { useParams } from "react-router";
import { answer, client, mayRetry, type Schemas } from "../../api/client";
import { keys } from "../../api/keys";
import { Button } from "../../ui/button";
import { isStoreKey } from "../../ui/keys";
import { Page } from "../../ui/page";
import { Trouble } from "../../ui/trouble";
import { words } from "../../words";
import { SeesRecords } from "../field-types/sees-records";
import { FormSheet } from "../form-sheet/form-sheet";
import { changesOf, entriesWith } from "../form-sheet/judging";
import { PassingBar } from "../form-sheet/passing-bar";
import { RefusalSummary } from "../form-sheet/refusal-summary";
import { Starters } from "../form-sheet/starters";
import { type LinkForm, useLinkFilling } from "./link-filling";

const t = words("link");

export const FillPage = () => <LinkPage embedded={false} />;
/** The same inside another page, which has a heading of its own around it. */
export const EmbedPage = () => <LinkPage embedded />;

function LinkPage({ embedded }: { embedded: boolean }) {
  const { linkKey = "" } = useParams();
  const form = useQuery({
    queryKey: keys.link(linkKey),
    queryFn: () =>
      answer(client.GET("/api/v1/links/{key}", { params: { path: { key: linkKey } } })),
    retry: mayRetry,
    staleTime: Number.POSITIVE_INFINITY,
  });
  if (form.error)
    return (
      <Page title={t("this_form_is_closed")} level={1} className="mx-auto max-w-xl p-8">
        <Trouble error={form.error} />
      </Page>
    );
  if (!form.data) return null;
  return (
    <SeesRecords.Provider value={false}>
      <Filling key={linkKey} form={form.data} embedded={embedded} />
    </SeesRecords.Provider>
  );
}

function Filling({ form, embedded }: { form: LinkForm; embedded: boolean }) {
  const { entries, touched, judgement, send, press, ...filling } = useLinkFilling(form, embedded);
  function onKeyDown(event: KeyboardEvent) {
    if (isStoreKey(event)) press();
  }
  if (send.data)
    return <Arrived form={form} said={send.data} embedded={embedded} onAgain={send.reset} />;
  const bar = (
    <PassingBar
      submitOnly
      judgement={judgement.data}
      fields={form.fields}
      onPress={press}
      busy={send.isPending}
    />
  );
  return (
    <Page
      title={form.name}
      heading={null}
      className={`mx-auto w-full max-w-3xl ${embedded ? "px-4 py-2" : "px-6 py-8"}`}
      onKeyDown={onKeyDown}
    >
      <h1 className={embedded ? "text-2xl" : "text-4xl"}>{form.name}</h1>
      {form.intro && <p className="mt-2 max-w-2xl whitespace-pre-line">{form.intro}</p>}
      <Starters
        starters={form.sheet.starters}
        onBegin={(values) => filling.change(() => entriesWith(values))}
      />
      {filling.dirty && (
        <p className="mt-2 text-sm text-muted">
          {t("what_you_enter_is_kept_in_this")}{" "}
          <Button look="quiet" onClick={filling.clear}>
            {t("clear_it")}
          </Button>
        </p>
      )}
      {filling.refusal ? (
        <RefusalSummary
          refused={filling.refusal}
          judgement={judgement.isPlaceholderData ? undefined : judgement.data}
          pressed="submit"
          fields={form.fields}
        />
      ) : (
        <Trouble error={filling.error} />
      )}
      <FormSheet
        submitOnly
        fields={form.fields}
        sheet={form.sheet}
        entries={entries}
        judgement={judgement.data}
        pressed={touched.pressed}
        {...changesOf(filling.change, touched.touch)}
      />
      {bar}
    </Page>
  );
}

type ArrivedProps = {
  form: LinkForm;
  said: Schemas["LinkReceiptView"];
  embedded: boolean;
  onAgain: () => void;
};

function Arrived({ form, said, embedded, onAgain }: ArrivedProps) {
  return (
    <Page title={t("sent")} of={form.name} heading={null} className="mx-auto max-w-2xl px-6 py-10">
      <h1 tabIndex={-1} data-focus="self" className="text-3xl outline-none">
        {t("sent")}
      </h1>
      <p role="status" className="mt-3 whitespace-pre-line">
        {said.text || t("what_you_have_entered_has_arrived")}
      </p>
      <p className="mt-5 flex items-center gap-4">
        {said.next_page && (
          <a
            href={said.next_page}
            {...(embedded && { target: "_top" })}
            rel="noreferrer"
            className="text-thistle underline"
          >
            {t("go_on")}
          </a>
        )}
        <Button onClick={onAgain}>{t("fill_in_another")}</Button>
      </p>
    </Page>
  );
}
