// An account made for somebody, with a password for the first time only.

import { useMutation, useQueryClient } from "@tanstack/react-query";
import { type FormEvent, useState } from "react";
import { answer, client } from "../../api/client";
import { keys } from "../../api/keys";
import { Button } from "../../ui/button";
import { Tick } from "../../ui/inputs";
import { isStoreKey } from "../../ui/keys";
import { useNotify } from "../../ui/notices";
import { Trouble } from "../../ui/trouble";
import { words } from "../../words";
import { type Role, RoleChoice } from "./roles";

const t = words("people");

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
      await queries.invalidateQueries({ queryKey: keys.accounts });
      notify({ text: t("shown_name_can_sign_in_as_name", { shown_name, name }) });
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
      data-focus="first"
      onKeyDown={(event) => {
        if (!isStoreKey(event)) return;
        event.preventDefault();
        event.currentTarget.requestSubmit();
      }}
      aria-label={t("new_account")}
      onSubmit={submit}
      className="my-4 grid gap-4 border-l-4 border-thistle bg-leaf px-5 py-4 md:grid-cols-2"
    >
      <label className="block">
        {t("name_as_it_is_shown")}
        <input
          className={line}
          required
          maxLength={100}
          value={shown_name}
          onChange={(event) => setShownName(event.target.value)}
        />
      </label>
      <label className="block">
        {t("name_to_sign_in_with")}
        <input
          className={line}
          required
          maxLength={60}
          pattern="[\w.@+\-]{2,60}"
          title={t("2_to_60_letters_digits_and")}
          value={name}
          onChange={(event) => setName(event.target.value)}
        />
      </label>
      <RoleChoice value={role} onChange={setRole} />
      <label className="block">
        {t("password_for_the_first_time_which_they")}
        <input
          className={line}
          required
          autoComplete="off"
          value={password}
          onChange={(event) => setPassword(event.target.value)}
        />
      </label>
      <label className="block">
        {t("e_mail_address_to_which_messages_go_2")}
        <input
          className={line}
          autoComplete="off"
          maxLength={254}
          value={email}
          onChange={(event) => setEmail(event.target.value)}
        />
      </label>
      <Tick checked={manages_people} onChange={setManages}>
        {t("looks_after_accounts")}
      </Tick>
      <div className="md:col-span-2">
        <Trouble error={make.error} />
        <div className="mt-2 flex gap-2">
          <Button look="solid" type="submit" busy={make.isPending}>
            {t("make_the_account")}
          </Button>
          <Button look="quiet" onClick={onClose}>
            {t("cancel")}
          </Button>
        </div>
      </div>
    </form>
  );
}
