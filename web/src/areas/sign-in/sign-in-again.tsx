// Over the page one was at: a session that has ended goes on where it stood.
import { type FormEvent, useState } from "react";
import { type Here, useGiveUp, useSignIn } from "../../api/session";
import { Button } from "../../ui/button";
import { useSteady } from "../../ui/pointer";
import { Secret } from "../../ui/secret";
import { Sheet } from "../../ui/sheet";
import { Trouble } from "../../ui/trouble";
import { words } from "../../words";

const t = words("signIn");

export function SignInAgain({ here }: { here: Here }) {
  // It comes under no press: what is being pressed is done first, and waits for the password.
  const ended = useSteady(here.ended);
  return (
    <Sheet title={t("sign_in_again")} firm open={ended} onOpenChange={() => undefined}>
      <Asked here={here} />
    </Sheet>
  );
}

function Asked({ here }: { here: Here }) {
  const [password, setPassword] = useState("");
  const signIn = useSignIn();
  const giveUp = useGiveUp();
  function submit(event: FormEvent) {
    event.preventDefault();
    signIn.mutate({ name: here.name ?? "", password });
  }
  return (
    <form onSubmit={submit}>
      <p>{t("your_session_has_ended_sign_in_to")}</p>
      <p className="mt-4">
        {t("shown_name_account", { shown_name: here.shown_name ?? "" })}{" "}
        <span className="font-mono">{here.name}</span>
      </p>
      {/* For password keepers: whose password it is. */}
      <input type="hidden" autoComplete="username" value={here.name ?? ""} />
      <div className="mt-4 mb-5">
        <Secret
          label={t("password")}
          value={password}
          autoComplete="current-password"
          onChange={setPassword}
        />
      </div>
      <Trouble error={signIn.error} />
      <div className="mt-3 flex gap-3">
        <Button look="solid" type="submit" busy={signIn.isPending}>
          {t("sign_in")}
        </Button>
        <Button look="quiet" onClick={giveUp}>
          {t("sign_in_as_somebody_else")}
        </Button>
      </div>
    </form>
  );
}
