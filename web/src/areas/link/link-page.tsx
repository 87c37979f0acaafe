// A form filled in by a link: no account, nothing but the form and what is said at its end.
import { useMutation, useQuery } from "@tanstack/react-query";
import { type KeyboardEvent, useEffect, useRef } from "react";
import { useParams } from "react-router";
import { answer, client, mayRetry, Refused, type Schemas } from "../../api/client";
import { Announcer } from "../../ui/announcer";
import { Button } from "../../ui/button";
import { useKeptHere } from "../../ui/kept-here";
import { isStoreKey } from "../../ui/keys";
import { newIdempotencyKey } from "../../ui/marks";
import { Page } from "../../ui/page";
import { Trouble } from "../../ui/trouble";
import { words } from "../../words";
import { SeesRecords } from "../form-sheet/field-control";
import { FormSheet } from "../form-sheet/form-sheet";
import { changesOf, type Entries, entriesWith, useJudged, useTouched } from "../form-sheet/judging";
import { PassingBar } from "../form-sheet/passing-bar";
import { RefusalSummary } from "../form-sheet/refusal-summary";
import { Starters } from "../form-sheet/starters";
import { usePuzzle } from "./puzzle";

const t = words("link");

type LinkForm = Schemas["LinkForm"];

export const FillPage = () => <LinkPage embedded={false} />;
/** The same inside another page, which has a heading of its own around it. */
export const EmbedPage = () => <LinkPage embedded />;

function LinkPage({ embedded }: { embedded: boolean }) {
  const { linkKey = "" } = useParams();
  const form = useQuery({
    queryKey: ["link", linkKey],
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
      <Announcer />
    </SeesRecords.Provider>
  );
}

function Filling({ form, embedded }: { form: LinkForm; embedded: boolean }) {
  const known = new Set(form.fields.map(({ key }) => key));
  const kept = useKeptHere<Entries>(
    `link:${form.key}`,
    entriesWith(form.sheet.starting),
    (old) => ({
      ...old,
      values: Object.fromEntries(
        Object.entries(old.values).filter(([key]) => known.has(key.replace(/\.again$/, ""))),
      ),
    }),
  );
  const entries = kept.value;
  const state = useTouched();
  const puzzle = usePuzzle(form.key);
  const path = { key: form.key };
  const body: Schemas["JudgeBody"] = {
    values: entries.values,
    reasons: entries.reasons,
    proposals_applied: entries.applied,
    touched: state.touched,
    event: "create",
  };
  const judgement = useJudged(["link", form.key, "judgement", form.release, body], (signal) =>
    answer(client.POST("/api/v1/links/{key}/judge", { params: { path }, body, signal })),
  );
  const send = useMutation({
    mutationFn: async (idempotency_key: string) =>
      answer(
        client.POST("/api/v1/links/{key}/records", {
          params: { path },
          body: {
            values: entries.values,
            reasons: entries.reasons,
            proposals_applied: entries.applied,
            solution: form.puzzle ? await puzzle.solution() : "",
            idempotency_key,
          },
        }),
      ),
    // Sent again with its mark, what had arrived already is not stored twice.
    retry: mayRetry,
    retryDelay: 1500,
    onSuccess: (arrived) => {
      puzzle.renew();
      kept.forget();
      state.begin();
      if (arrived.next_page && !arrived.text && !embedded)
        window.location.assign(arrived.next_page);
    },
    onError: (error) => {
      if (error instanceof Refused && error.problem.type.endsWith("puzzle-unsolved"))
        puzzle.renew();
    },
  });
  useEffect(() => {
    // Begun with the first entry, it is mostly done when the form is submitted.
    if (form.puzzle && kept.dirty) puzzle.solution().catch(() => {});
  }, [form.puzzle, kept.dirty, puzzle.solution]);
  function press() {
    if (send.isPending) return;
    state.press("submit");
    send.mutate(newIdempotencyKey());
  }
  function onKeyDown(event: KeyboardEvent) {
    if (isStoreKey(event)) press();
  }
  if (send.data)
    return <Arrived form={form} said={send.data} embedded={embedded} onAgain={send.reset} />;
  const refused = send.error instanceof Refused && send.error.problem.type.endsWith("blocked");
  const corrected =
    refused && !judgement.isPlaceholderData && (judgement.data?.submit.may_pass ?? false);
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
        onBegin={(values) => kept.change(() => entriesWith(values))}
      />
      {kept.dirty && (
        <p className="mt-2 text-sm text-muted">
          {t("what_you_enter_is_kept_in_this")}{" "}
          <Button
            look="quiet"
            onClick={() => {
              kept.forget();
              state.begin();
              send.reset();
            }}
          >
            {t("clear_it")}
          </Button>
        </p>
      )}
      {refused && !corrected && send.error instanceof Refused ? (
        <RefusalSummary
          refused={send.error}
          judgement={judgement.isPlaceholderData ? undefined : judgement.data}
          pressed="submit"
          fields={form.fields}
        />
      ) : (
        <Trouble error={corrected ? null : (send.error ?? judgement.error)} />
      )}
      <FormSheet
        submitOnly
        fields={form.fields}
        sheet={form.sheet}
        entries={entries}
        judgement={judgement.data}
        pressed={state.pressed}
        {...changesOf(kept.change, state.touch)}
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
  const heading = useRef<HTMLHeadingElement>(null);
  useEffect(() => heading.current?.focus(), []);
  return (
    <Page title={t("sent")} of={form.name} heading={null} className="mx-auto max-w-2xl px-6 py-10">
      <h1 ref={heading} tabIndex={-1} className="text-3xl outline-none">
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
