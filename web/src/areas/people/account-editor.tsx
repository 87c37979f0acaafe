// One account: its role in all forms and in single ones, its password, where it is signed in.
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { X } from "lucide-react";
import { type FormEvent, useState } from "react";
import { answer, client, type Schemas } from "../../api/client";
import { ROLES } from "../../api/lists";
import { Button } from "../../ui/button";
import { counted } from "../../ui/counts";
import { Tick } from "../../ui/inputs";
import { useNotify } from "../../ui/notices";
import { Trouble } from "../../ui/trouble";
import { RoleChoice } from "./roles";

type Account = Schemas["AccountView"];
type FormRole = Account["form_roles"][string];
type Props = { account: Account; onClose: () => void };

export function AccountEditor({ account, onClose }: Props) {
  const [draft, setDraft] = useState(account);
  const set = (part: Partial<Account>) => setDraft({ ...draft, ...part });
  const queries = useQueryClient();
  const notify = useNotify();
  const path = { name: account.name };
  const refresh = () => queries.invalidateQueries({ queryKey: ["accounts"] });
  const store = useMutation({
    mutationFn: () => {
      const { shown_name, email, role, manages_people, open, form_roles } = draft;
      const body = { shown_name, email, role, manages_people, open, form_roles };
      return answer(client.PUT("/api/v1/people/{name}", { params: { path }, body }));
    },
    onSuccess: async () => {
      await refresh();
      notify({ text: `The account of ${draft.shown_name} is changed.` });
      onClose();
    },
  });
  function submit(event: FormEvent) {
    event.preventDefault();
    store.mutate();
  }
  return (
    <div className="grid gap-6 py-3 md:grid-cols-2">
      <form onSubmit={submit} aria-label={`Account of ${account.shown_name}`} className="space-y-3">
        <label className="block">
          Name as it is shown
          <input
            className="line-input mt-1 block w-full"
            required
            maxLength={100}
            value={draft.shown_name}
            onChange={(event) => set({ shown_name: event.target.value })}
          />
        </label>
        <label className="block">
          E-mail address, to which messages go
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
          looks after accounts
        </Tick>
        <Tick checked={draft.open} onChange={(open) => set({ open })}>
          can sign in (otherwise the account is closed, and signed out everywhere)
        </Tick>
        <Trouble error={store.error} />
        <div className="flex gap-2">
          <Button look="solid" type="submit" busy={store.isPending}>
            Save account
          </Button>
          <Button look="quiet" onClick={onClose}>
            Cancel
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
    queryKey: ["forms"],
    queryFn: () => answer(client.GET("/api/v1/forms")),
  }).data;
  const left = forms?.filter(({ key }) => !(key in roles)) ?? [];
  return (
    <fieldset>
      <legend>Another role in single forms</legend>
      <ul>
        {Object.entries(roles).map(([key, role]) => {
          const name = forms?.find((form) => form.key === key)?.name ?? key;
          return (
            <li key={key} className="mt-1 flex items-center gap-2">
              <span className="w-44 truncate">{name}</span>
              <select
                aria-label={`Role in ${name}`}
                className="line-input"
                value={role}
                onChange={(event) => onChange({ ...roles, [key]: event.target.value as FormRole })}
              >
                {ROLES.map((one) => (
                  <option key={one} value={one}>
                    {one}
                  </option>
                ))}
                <option value="none">nothing: does not see it</option>
              </select>
              <Button
                look="quiet"
                aria-label={`As elsewhere in ${name}`}
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
          aria-label="Form with another role"
          className="line-input mt-1"
          value=""
          onChange={(event) => onChange({ ...roles, [event.target.value]: "reader" })}
        >
          <option value="">in which form?</option>
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
      notify({ text: `${account.shown_name} is signed out, and has a new password.` });
    },
  });
  function submit(event: FormEvent) {
    event.preventDefault();
    reset.mutate();
  }
  return (
    <form onSubmit={submit}>
      <label className="block">
        A new password for {account.shown_name}
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
        Set it, and sign them out
      </Button>
    </form>
  );
}

function TheirSessions({ account }: { account: Account }) {
  const queries = useQueryClient();
  const queryKey = ["accounts", account.name, "sessions"];
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
        {count === 0 ? "Signed in nowhere." : `Signed in at ${counted(count, "place")}.`}
      </p>
      {count > 0 && <Button onClick={() => end.mutate()}>Sign them out everywhere</Button>}
      <Trouble error={sessions.error ?? end.error} />
    </div>
  );
}
