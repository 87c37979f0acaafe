// One account: its role in all forms and in single ones, its password, where it is signed in.

import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { X } from "lucide-react";
import { type FormEvent, useState } from "react";
import { answer, client, type Schemas } from "../../api/client";
import { keys } from "../../api/keys";
import { ROLES } from "../../api/lists";
import { Button } from "../../ui/button";
import { Tick } from "../../ui/inputs";
import { useNotify } from "../../ui/notices";
import { Trouble } from "../../ui/trouble";
import { writtenNumber } from "../../ui/written";
import { words } from "../../words";
import { RoleChoice } from "./roles";

const t = words("people");

type Account = Schemas["AccountView"];
type FormRole = Account["form_roles"][string];
type Props = { account: Account; onClose: () => void };

export function AccountEditor({ account, onClose }: Props) {
  const [draft, setDraft] = useState(account);
  const set = (part: Partial<Account>) => setDraft({ ...draft, ...part });
  const queries = useQueryClient();
  const notify = useNotify();
  const path = { name: account.name };
  const refresh = () => queries.invalidateQueries({ queryKey: keys.accounts });
  const store = useMutation({
    mutationFn: () => {
      const { shown_name, email, role, manages_people, open, form_roles } = draft;
      const body = { shown_name, email, role, manages_people, open, form_roles };
      return answer(client.PUT("/api/v1/people/{name}", { params: { path }, body }));
    },
    onSuccess: async () => {
      await refresh();
      notify({ text: t("the_account_of_shown_name_is_changed", { shown_name: draft.shown_name }) });
      onClose();
    },
  });
  function submit(event: FormEvent) {
    event.preventDefault();
    store.mutate();
  }
  return (
    <div className="grid gap-6 py-3 md:grid-cols-2">
      <form
        onSubmit={submit}
        aria-label={t("account_of_shown_name", { shown_name: account.shown_name })}
        className="space-y-3"
      >
        <label className="block">
          {t("name_as_it_is_shown")}
          <input
            className="line-input mt-1 block w-full"
            required
            maxLength={100}
            value={draft.shown_name}
            onChange={(event) => set({ shown_name: event.target.value })}
          />
        </label>
        <label className="block">
          {t("e_mail_address_to_which_messages_go")}
          <input
            className="line-input mt-1 block w-full"
            autoComplete="off"
            maxLength={254}
            value={draft.email}
            onChange={(event) => set({ email: event.target.value })}
          />
        </label>
        <RoleChoice value={draft.role} onChange={(role) => set({ role })} />
        <FormRoles roles={draft.form_roles} onChange={(form_roles) => set({ form_roles })} />
        <Tick checked={draft.manages_people} onChange={(manages_people) => set({ manages_people })}>
          {t("looks_after_accounts")}
        </Tick>
        <Tick checked={draft.open} onChange={(open) => set({ open })}>
          {t("can_sign_in_otherwise_the_account_is")}
        </Tick>
        <Trouble error={store.error} />
        <div className="flex gap-2">
          <Button look="solid" type="submit" busy={store.isPending}>
            {t("save_account")}
          </Button>
          <Button look="quiet" onClick={onClose}>
            {t("cancel")}
          </Button>
        </div>
      </form>
      <div className="space-y-4">
        <Reset account={account} />
        <TheirSessions account={account} />
      </div>
    </div>
  );
}

type RolesProps = {
  roles: Account["form_roles"];
  onChange: (roles: Account["form_roles"]) => void;
};

/** What somebody is in single forms, other than elsewhere. */
function FormRoles({ roles, onChange }: RolesProps) {
  const forms = useQuery({
    queryKey: keys.forms,
    queryFn: () => answer(client.GET("/api/v1/forms")),
  }).data;
  const left = forms?.filter(({ key }) => !(key in roles)) ?? [];
  return (
    <fieldset>
      <legend>{t("another_role_in_single_forms")}</legend>
      <ul>
        {Object.entries(roles).map(([key, role]) => {
          const name = forms?.find((form) => form.key === key)?.name ?? key;
          return (
            <li key={key} className="mt-1 flex items-center gap-2">
              <span className="w-44 truncate">{name}</span>
              <select
                aria-label={t("role_in_name", { name })}
                className="line-input"
                value={role}
                onChange={(event) => onChange({ ...roles, [key]: event.target.value as FormRole })}
              >
                {ROLES.map((one) => (
                  <option key={one} value={one}>
                    {one}
                  </option>
                ))}
                <option value="none">{t("nothing_does_not_see_it")}</option>
              </select>
              <Button
                look="quiet"
                aria-label={t("as_elsewhere_in_name", { name })}
                onClick={() => {
                  const { [key]: _, ...others } = roles;
                  onChange(others);
                }}
              >
                <X size={16} aria-hidden="true" />
              </Button>
            </li>
          );
        })}
      </ul>
      {left.length > 0 && (
        <select
          aria-label={t("form_with_another_role")}
          className="line-input mt-1"
          value=""
          onChange={(event) => onChange({ ...roles, [event.target.value]: "reader" })}
        >
          <option value="">{t("in_which_form")}</option>
          {left.map(({ key, name }) => (
            <option key={key} value={key}>
              {name}
            </option>
          ))}
        </select>
      )}
    </fieldset>
  );
}

function Reset({ account }: { account: Account }) {
  const [password, setPassword] = useState("");
  const notify = useNotify();
  const reset = useMutation({
    mutationFn: () =>
      answer(
        client.POST("/api/v1/people/{name}/password", {
          params: { path: { name: account.name } },
          body: { password },
        }),
      ),
    onSuccess: () => {
      setPassword("");
      notify({ text: t("shown_name_is_signed_out_and_has", { shown_name: account.shown_name }) });
    },
  });
  function submit(event: FormEvent) {
    event.preventDefault();
    reset.mutate();
  }
  return (
    <form onSubmit={submit}>
      <label className="block">
        {t("a_new_password_for_shown_name", { shown_name: account.shown_name })}
        <input
          className="line-input mt-1 block w-full"
          required
          autoComplete="off"
          value={password}
          onChange={(event) => setPassword(event.target.value)}
        />
      </label>
      <Trouble error={reset.error} />
      <Button type="submit" className="mt-2" busy={reset.isPending}>
        {t("set_it_and_sign_them_out")}
      </Button>
    </form>
  );
}

function TheirSessions({ account }: { account: Account }) {
  const queries = useQueryClient();
  const queryKey = keys.accountSessions(account.name);
  const path = { name: account.name };
  const sessions = useQuery({
    queryKey,
    queryFn: () => answer(client.GET("/api/v1/people/{name}/sessions", { params: { path } })),
  });
  const end = useMutation({
    mutationFn: () => answer(client.DELETE("/api/v1/people/{name}/sessions", { params: { path } })),
    onSettled: () => queries.invalidateQueries({ queryKey }),
  });
  const count = sessions.data?.length ?? 0;
  return (
    <div>
      <p className="text-muted">
        {count === 0
          ? t("signed_in_nowhere")
          : t("signed_in_at_count_places", { count, countShown: writtenNumber(count) })}
      </p>
      {count > 0 && <Button onClick={() => end.mutate()}>{t("sign_them_out_everywhere")}</Button>}
      <Trouble error={sessions.error ?? end.error} />
    </div>
  );
}
