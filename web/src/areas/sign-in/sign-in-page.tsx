import { type FormEvent, useState } from "react";
import { useSignIn } from "../../api/session";
import { Button } from "../../ui/button";
import { Facet } from "../../ui/facet";
import { Page } from "../../ui/page";
import { Secret } from "../../ui/secret";
import { Trouble } from "../../ui/trouble";
import { words } from "../../words";

const t = words("signIn");

export function SignInPage() {
  const [name, setName] = useState("");
  const [password, setPassword] = useState("");
  const signIn = useSignIn();
  function submit(event: FormEvent) {
    event.preventDefault();
    signIn.mutate({ name, password });
  }
  return (
    <Page
      title={t("sign_in")}
      heading={null}
      className="mx-auto grid min-h-screen max-w-5xl items-center gap-16 px-8 md:grid-cols-2"
    >
      <div>
        <img src="/mark.svg" alt="" width="56" height="56" />
        <h1 className="mt-4 text-5xl">{t("thistlequartz")}</h1>
        <p className="mt-4 font-serif text-xl leading-relaxed">
          {t("what_exactly_stops_or_warns_whom_at")}
        </p>
        <ul className="mt-6 space-y-1.5 text-muted">
          <li className="flex items-center gap-2">
            <Facet level="note" /> {t("a_note_tells")}
          </li>
          <li className="flex items-center gap-2">
            <Facet level="warn" /> {t("a_warning_lets_pass")}
          </li>
          <li className="flex items-center gap-2">
            <Facet level="block" /> {t("a_block_stops")}
          </li>
        </ul>
      </div>
      <form data-focus="first" onSubmit={submit} className="border-t border-b border-hairline py-8">
        <h2 className="text-2xl">{t("sign_in")}</h2>
        <label className="mt-4 block">
          {t("name")}
          <input
            className="line-input mt-1 block w-full"
            autoComplete="username"
            value={name}
            onChange={(event) => setName(event.target.value)}
            required
          />
        </label>
        <div className="mt-4 mb-5">
          <Secret
            label={t("password")}
            value={password}
            autoComplete="current-password"
            onChange={setPassword}
          />
        </div>
        <Trouble error={signIn.error} />
        <Button look="solid" type="submit" className="mt-3" busy={signIn.isPending}>
          {t("sign_in")}
        </Button>
      </form>
    </Page>
  );
}
