import { type FormEvent, useState } from "react";
import { useSignIn } from "../../api/session";
import { Button } from "../../ui/button";
import { Facet } from "../../ui/facet";
import { Page } from "../../ui/page";
import { Secret } from "../../ui/secret";
import { Trouble } from "../../ui/trouble";

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
      title="Sign in"
      heading={null}
      className="mx-auto grid min-h-screen max-w-5xl items-center gap-16 px-8 md:grid-cols-2"
    >
      <div>
        <img src="/mark.svg" alt="" width="56" height="56" />
        <h1 className="mt-4 text-5xl">Thistlequartz</h1>
        <p className="mt-4 font-serif text-xl leading-relaxed">
          What exactly stops or warns whom, at which moment, and how do I know?
        </p>
        <ul className="mt-6 space-y-1.5 text-muted">
          <li className="flex items-center gap-2">
            <Facet level="note" /> a note tells
          </li>
          <li className="flex items-center gap-2">
            <Facet level="warn" /> a warning lets pass
          </li>
          <li className="flex items-center gap-2">
            <Facet level="block" /> a block stops
          </li>
        </ul>
      </div>
      <form onSubmit={submit} className="border-t border-b border-hairline py-8">
        <h2 className="text-2xl">Sign in</h2>
        <label className="mt-4 block">
          Name
          <input
            className="line-input mt-1 block w-full"
            autoComplete="username"
            // biome-ignore lint/a11y/noAutofocus: signing in is all there is to do here
            autoFocus
            value={name}
            onChange={(event) => setName(event.target.value)}
            required
          />
        </label>
        <div className="mt-4 mb-5">
          <Secret
            label="Password"
            value={password}
            autoComplete="current-password"
            onChange={setPassword}
          />
        </div>
        <Trouble error={signIn.error} />
        <Button look="solid" type="submit" className="mt-3" busy={signIn.isPending}>
          Sign in
        </Button>
      </form>
    </Page>
  );
}
