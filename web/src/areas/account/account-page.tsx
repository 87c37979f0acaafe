// One's own account: the password, where one is signed in, and how the screens look.

import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { type FormEvent, useId, useState } from "react";
import { answer, client, type Schemas } from "../../api/client";
import { keys } from "../../api/keys";
import { useArrived, useSettings, useVisitor } from "../../api/session";
import { Button } from "../../ui/button";
import { useNotify } from "../../ui/notices";
import { Page } from "../../ui/page";
import { Secret } from "../../ui/secret";
import { Trouble } from "../../ui/trouble";
import { writtenMoment } from "../../ui/written";
import { words } from "../../words";

const t = words("account");

export function AccountPage() {
  const visitor = useVisitor().data;
  return (
    <Page title={t("my_account")} className="mx-auto w-full max-w-3xl px-6 py-8">
      <p className="text-muted">
        {t("shown_name_account", { shown_name: visitor?.shown_name ?? "" })}{" "}
        <span className="font-mono">{visitor?.name}</span>
      </p>
      <Look />
      <section aria-labelledby="password-title" className="mt-6 border-t border-hairline pt-4">
        <h3 id="password-title" className="text-xl">
          {t("password")}
        </h3>
        <OwnPassword />
      </section>
      <Sessions />
    </Page>
  );
}

/** Chosen before anything else, where somebody else has set it. */
export function PasswordFirst() {
  return (
    <Page title={t("choose_a_password")} className="mx-auto w-full max-w-xl px-6 py-10">
      <p className="mt-2">{t("somebody_else_set_your_password_choose_one")}</p>
      <OwnPassword />
    </Page>
  );
}

type Settings = Schemas["Settings"];
const THEMES: [Settings["theme"], string][] = [
  ["system", t("as_the_system_says")],
  ["light", "light"],
  ["dark", "dark"],
];
const DATES = ["11 June 2026", "11 Jun 2026", "June 11, 2026", "2026-06-11"] as const;
const NUMBERS = ["1,234.5", "1.234,5", "1 234.5", "1 234,5"] as const;

/** How the screens look to one person, and how days and numbers are written there. */
function Look() {
  const { settings, choose, error } = useSettings();
  if (!settings) return null;
  return (
    <section aria-labelledby="look-title" className="mt-6 border-t border-hairline pt-4">
      <h3 id="look-title" className="text-xl">
        {t("how_you_like_to_read")}
      </h3>
      <Ways
        legend={t("light_or_dark")}
        ways={THEMES}
        chosen={settings.theme}
        onChoose={(theme) => choose({ theme })}
      />
      <Ways
        legend="Days"
        ways={DATES.map((one) => [one, one])}
        chosen={settings.dates}
        onChoose={(dates) => choose({ dates })}
      />
      <Ways
        legend="Numbers"
        ways={NUMBERS.map((one) => [one, one])}
        chosen={settings.numbers}
        onChoose={(numbers) => choose({ numbers })}
      />
      <p className="mt-2 text-sm text-muted">{t("rules_and_messages_keep_the_wording_of")}</p>
      <Trouble error={error} />
    </section>
  );
}

type WaysProps<T extends string> = {
  legend: string;
  ways: readonly (readonly [T, string])[];
  chosen: T;
  onChoose: (way: T) => void;
};

function Ways<T extends string>({ legend, ways, chosen, onChoose }: WaysProps<T>) {
  const name = useId();
  return (
    <fieldset className="mt-2 flex flex-wrap gap-x-6">
      <legend className="float-left w-32 text-muted">{legend}</legend>
      {ways.map(([way, words]) => (
        <label key={way} className="flex items-center gap-1.5">
          <input
            type="radio"
            name={name}
            className="size-4 accent-thistle"
            checked={chosen === way}
            onChange={() => onChoose(way)}
          />
          {words}
        </label>
      ))}
    </fieldset>
  );
}

function OwnPassword() {
  const [old, setOld] = useState("");
  const [password, setPassword] = useState("");
  const [again, setAgain] = useState("");
  const arrived = useArrived();
  const notify = useNotify();
  const change = useMutation({
    mutationFn: () => answer(client.POST("/api/v1/session/password", { body: { old, password } })),
    onSuccess: (visitor) => {
      for (const empty of [setOld, setPassword, setAgain]) empty("");
      arrived(visitor);
      notify({ text: t("password_changed_you_are_signed_out") });
    },
  });
  const differs = again !== "" && again !== password;
  function submit(event: FormEvent) {
    event.preventDefault();
    if (!differs && again !== "") change.mutate();
  }
  return (
    <form onSubmit={submit} className="mt-2 max-w-md space-y-3">
      <Secret
        label={t("current_password")}
        value={old}
        autoComplete="current-password"
        onChange={setOld}
      />
      <Secret
        label={t("new_password")}
        value={password}
        autoComplete="new-password"
        hint={t("at_least_ten_characters_not_a_common")}
        onChange={setPassword}
      />
      <Secret
        label={t("new_password_again")}
        value={again}
        autoComplete="new-password"
        fault={differs ? t("the_two_do_not_match_yet") : ""}
        onChange={setAgain}
      />
      <Trouble error={change.error} />
      <Button look="solid" type="submit" busy={change.isPending || differs || again === ""}>
        {t("change_password")}
      </Button>
    </form>
  );
}

function Sessions() {
  const queries = useQueryClient();
  const queryKey = keys.ownSessions;
  const sessions = useQuery({
    queryKey,
    queryFn: () => answer(client.GET("/api/v1/session/list")),
  });
  const end = useMutation({
    mutationFn: (number: number) =>
      answer(client.DELETE("/api/v1/session/list/{number}", { params: { path: { number } } })),
    onSettled: () => queries.invalidateQueries({ queryKey }),
  });
  return (
    <section aria-labelledby="sessions-title" className="mt-6 border-t border-hairline pt-4">
      <h3 id="sessions-title" className="text-xl">
        {t("where_you_are_signed_in")}
      </h3>
      <Trouble error={sessions.error ?? end.error} />
      <ul className="mt-2">
        {sessions.data?.map((one) => (
          <li
            key={one.id}
            className="flex items-baseline gap-4 border-b border-hairline py-1.5 text-sm"
          >
            <span className="min-w-0 grow truncate" title={one.browser}>
              {one.browser || t("an_unnamed_browser")}
            </span>
            <span className="whitespace-nowrap text-muted">
              {t("seen_seen_at", { seen_at: writtenMoment(one.seen_at) })}
            </span>
            {one.this_one ? (
              <span className="whitespace-nowrap text-moss">{t("this_one")}</span>
            ) : (
              <Button look="quiet" onClick={() => end.mutate(one.id)}>
                {t("sign_it_out")}
              </Button>
            )}
          </li>
        ))}
      </ul>
    </section>
  );
}
