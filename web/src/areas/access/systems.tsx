// Access of other systems: tokens, and how the service API is called.
import { useState } from "react";
import { Button } from "../../ui/button";
import { Trouble } from "../../ui/trouble";
import { writtenDay, writtenMoment } from "../../ui/written";
import { words } from "../../words";
import { HowItIsCalled } from "./how-it-is-called";
import { MakeToken } from "./make-token";
import { type Token, useEndToken, useTokens } from "./token-queries";

const t = words("access");

export function Systems({ formKey }: { formKey: string }) {
  const tokens = useTokens(formKey);
  const end = useEndToken(formKey);
  const [making, setMaking] = useState(false);
  return (
    <section aria-label={t("api_tokens")}>
      <p className="mt-1 max-w-3xl">
        {t.rich("whatever_another_system_sends_is_judged_as", { i: (chunks) => <i>{chunks}</i> })}
      </p>
      <div className="mt-4 flex items-baseline gap-4">
        <h3 className="mr-auto text-lg">{t("tokens")}</h3>
        {!making && (
          <Button look="solid" onClick={() => setMaking(true)}>
            {t("create_token_2")}
          </Button>
        )}
      </div>
      {making && <MakeToken formKey={formKey} onClose={() => setMaking(false)} />}
      <Trouble error={tokens.error ?? end.error} />
      {tokens.data?.length === 0 && (
        <p className="mt-2 border-t border-hairline py-4 text-muted">
          {t("no_api_tokens_yet_create_one_for")}
        </p>
      )}
      {tokens.data && tokens.data.length > 0 && (
        <table className="mt-2 w-full border-t border-b border-edge">
          <thead className="text-left text-muted">
            <tr className="border-b border-hairline *:px-2 *:py-1.5 *:font-normal">
              <th scope="col">{t("for")}</th>
              <th scope="col">{t("may")}</th>
              <th scope="col">{t("in")}</th>
              <th scope="col">{t("made")}</th>
              <th scope="col">{t("last_used")}</th>
              <th scope="col">
                <span className="sr-only">{t("how_it_stands")}</span>
              </th>
            </tr>
          </thead>
          <tbody>
            {tokens.data.map((token) => (
              <TokenRow
                key={token.id}
                token={token}
                busy={end.isPending}
                onEnd={() => end.mutate(token.id)}
              />
            ))}
          </tbody>
        </table>
      )}
      <HowItIsCalled formKey={formKey} />
    </section>
  );
}

type RowProps = { token: Token; busy: boolean; onEnd: () => void };

function TokenRow({ token, busy, onEnd }: RowProps) {
  return (
    <tr
      className={`border-t border-hairline align-top *:px-2 *:py-1.5 ${token.counts ? "" : "text-muted"}`}
    >
      <th scope="row" className="text-left font-normal">
        {token.name}
        <span className="block font-mono text-sm text-muted">{token.begins}…</span>
      </th>
      <td>{token.acts.join(", ")}</td>
      <td>{token.forms.join(", ")}</td>
      <td>
        {token.made_by}
        <span className="block text-sm text-muted">{writtenMoment(token.created_at)}</span>
      </td>
      <td>{token.last_used_at ? writtenMoment(token.last_used_at) : t("never")}</td>
      <td>
        {token.counts ? (
          <>
            <Button
              look="quiet"
              busy={busy}
              aria-label={t("end_name", { name: token.name })}
              onClick={onEnd}
            >
              {t("revoke")}
            </Button>
            {token.ends_at && (
              <span className="block text-sm text-muted">
                {t("ends_ends_at", { ends_at: writtenDay(token.ends_at) })}
              </span>
            )}
          </>
        ) : (
          t("has_ended")
        )}
      </td>
    </tr>
  );
}
