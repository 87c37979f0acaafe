// The accounts: who may do what, in all forms or in one, and where they are signed in.

import { useQuery } from "@tanstack/react-query";
import { History, Plus } from "lucide-react";
import { useState } from "react";
import { answer, client, type Schemas } from "../../api/client";
import { keys } from "../../api/keys";
import { useMay } from "../../api/session";
import { useAddress } from "../../ui/address";
import { Button } from "../../ui/button";
import { Page } from "../../ui/page";
import { SearchBox } from "../../ui/search-box";
import { Trouble } from "../../ui/trouble";
import { writtenMoment } from "../../ui/written";
import { words } from "../../words";
import { FoundActs } from "../history/found-acts";
import { AccountEditor } from "./account-editor";
import { NewAccount } from "./new-account";

const t = words("people");

type Account = Schemas["AccountView"];
const USUAL = { search: "" };

export function PeoplePage() {
  const mayManage = useMay("manage_people");
  const accounts = useQuery({
    queryKey: keys.accounts,
    queryFn: () => answer(client.GET("/api/v1/people")),
    enabled: mayManage,
  });
  const [{ search }, ask] = useAddress(USUAL);
  const [open, setOpen] = useState<string | null>(null);
  const [adding, setAdding] = useState(false);
  const wanted = search.trim().toLowerCase();
  const shown = accounts.data?.filter((one) =>
    `${one.name} ${one.shown_name} ${one.role}`.toLowerCase().includes(wanted),
  );
  if (!mayManage)
    return (
      <Page title={t("people")} className="p-6">
        <p>{t("you_may_not_look_after_accounts_ask")}</p>
      </Page>
    );
  return (
    <Page title={t("people")} heading={null} className="mx-auto w-full max-w-5xl px-6 py-8">
      <div className="flex flex-wrap items-end gap-x-6 gap-y-3">
        <h1 className="mr-auto text-4xl">{t("people")}</h1>
        <SearchBox
          label={t("search_the_people")}
          placeholder={t("search_names_and_roles")}
          value={search}
          onChange={(next) => ask({ search: next })}
        />
        <Button look="solid" aria-expanded={adding} onClick={() => setAdding(!adding)}>
          <Plus size={18} aria-hidden="true" /> {t("new_account")}
        </Button>
      </div>
      {adding && <NewAccount onClose={() => setAdding(false)} />}
      <Trouble error={accounts.error} />
      {shown?.length === 0 && (
        <p className="mt-6 border-t border-hairline pt-6 text-muted">
          {t("nobody_fits_clear_the_search_or_make")}
        </p>
      )}
      {shown && shown.length > 0 && (
        <table className="mt-6 w-full border-t border-b border-edge">
          <thead className="text-left text-muted">
            <tr className="border-b border-hairline *:px-3 *:py-2 *:font-normal">
              <th scope="col">{t("name")}</th>
              <th scope="col">{t("account")}</th>
              <th scope="col">{t("role")}</th>
              <th scope="col">{t("last_here")}</th>
              <th scope="col">
                <span className="sr-only">{t("change")}</span>
              </th>
            </tr>
          </thead>
          <tbody>
            {shown.map((account) => (
              <Row
                key={account.name}
                account={account}
                open={open === account.name}
                onOpen={() => setOpen(open === account.name ? null : account.name)}
              />
            ))}
          </tbody>
        </table>
      )}
      <Log />
    </Page>
  );
}

type RowProps = { account: Account; open: boolean; onOpen: () => void };

function Row({ account, open, onOpen }: RowProps) {
  const elsewhere = Object.keys(account.form_roles).length;
  return (
    <>
      <tr
        className={`border-b border-hairline align-top *:px-3 *:py-2 ${account.open ? "" : "text-muted"}`}
      >
        <th scope="row" className="text-left font-normal">
          {t("account_name", { name: account.shown_name, open: String(account.open) })}
        </th>
        <td className="font-mono text-sm">{account.name}</td>
        <td>
          {t("account_role", { role: account.role, manages: String(account.manages_people) })}
          {elsewhere > 0 && (
            <span className="block text-sm text-muted">
              {t("otherwise_in_elsewhere_forms", { elsewhere })}
            </span>
          )}
        </td>
        <td className="text-muted">
          {account.last_seen_at ? writtenMoment(account.last_seen_at) : t("never")}
        </td>
        <td className="text-right">
          <Button
            look="quiet"
            aria-expanded={open}
            aria-label={t("change_the_account_of_shown_name", { shown_name: account.shown_name })}
            onClick={onOpen}
          >
            {t("change_2")}
          </Button>
        </td>
      </tr>
      {open && (
        <tr>
          <td colSpan={5} className="border-b border-hairline">
            <AccountEditor account={account} onClose={onOpen} />
          </td>
        </tr>
      )}
    </>
  );
}

/** Who changed which account, when it is asked for. */
function Log() {
  const [open, setOpen] = useState(false);
  return (
    <section aria-label={t("what_was_changed")} className="mt-8">
      <Button look="quiet" aria-expanded={open} onClick={() => setOpen(!open)}>
        <History size={16} aria-hidden="true" /> {t("what_was_changed_and_by_whom")}
      </Button>
      {open && (
        <FoundActs
          queryKey={keys.accountLog}
          fetch={(query) => answer(client.GET("/api/v1/people-log", { params: { query } }))}
          file="/api/v1/people-log-file"
        />
      )}
    </section>
  );
}
