// An account made for somebody, with a password for the first time only.
import { useMutation, useQueryClient } from "@tanstack/react-query";
import { type FormEvent, useState } from "react";
import { answer, client } from "../../api/client";
import { Button } from "../../ui/button";
import { useFocusedFirst } from "../../ui/focus";
import { Tick } from "../../ui/inputs";
import { isStoreKey } from "../../ui/keys";
import { useNotify } from "../../ui/notices";
import { Trouble } from "../../ui/trouble";
import { type Role, RoleChoice } from "./roles";

export function NewAccount({ onClose }: { onClose: () => void }) {
  const [name, setName] = useState("");
  const [shown_name, setShownName] = useState("");
  const [email, setEmail] = useState("");
  const [role, setRole] = useState<Role>("clerk");
  const [manages_people, setManages] = useState(false);
  const [password, setPassword] = useState("");
  const queries = useQueryClient();
  const notify = useNotify();
  const make = useMutation({
    mutationFn: () =>
      answer(
        client.POST("/api/v1/people", {
          body: { name, shown_name, email, role, manages_people, password },
        }),
      ),
    onSuccess: async () => {
      await queries.invalidateQueries({ queryKey: ["accounts"] });
      notify({ text: `${shown_name} can sign in as ${name} now, and chooses a password then.` });
      onClose();
    },
  });
  function submit(event: FormEvent) {
    event.preventDefault();
    if (!make.isPending) make.mutate();
  }
  const line = "line-input mt-1 block w-full";
  return (
    <form
      ref={useFocusedFirst<HTMLFormElement>()}
      onKeyDown={(event) => {
        if (!isStoreKey(event)) return;
        event.preventDefault();
        event.currentTarget.requestSubmit();
      }}
      aria-label="New account"
      onSubmit={submit}
      className="my-4 grid gap-4 border-l-4 border-thistle bg-leaf px-5 py-4 md:grid-cols-2"
    >
      <label className="block">
        Name as it is shown
        <input
          className={line}
          required
          maxLength={100}
          value={shown_name}
          onChange={(event) => setShownName(event.target.value)}
        />
      </label>
      <label className="block">
        Name to sign in with
        <input
          className={line}
          required
          maxLength={60}
          pattern="[\w.@+\-]{2,60}"
          title="2 to 60 letters, digits and . @ + - _"
          value={name}
          onChange={(event) => setName(event.target.value)}
        />
      </label>
      <RoleChoice value={role} onChange={setRole} />
      <label className="block">
        Password for the first time, which they change then
        <input
          className={line}
          required
          autoComplete="off"
          value={password}
          onChange={(event) => setPassword(event.target.value)}
        />
      </label>
      <label className="block">
        E-mail address, to which messages go (optional)
        <input
          className={line}
          autoComplete="off"
          maxLength={254}
          value={email}
          onChange={(event) => setEmail(event.target.value)}
        />
      </label>
      <Tick checked={manages_people} onChange={setManages}>
        looks after accounts
      </Tick>
      <div className="md:col-span-2">
        <Trouble error={make.error} />
        <div className="mt-2 flex gap-2">
          <Button look="solid" type="submit" busy={make.isPending}>
            Make the account
          </Button>
          <Button look="quiet" onClick={onClose}>
            Cancel
          </Button>
        </div>
      </div>
    </form>
  );
}
