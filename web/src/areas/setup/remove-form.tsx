// Removing a form: only with its name typed, as that cannot be undone.

import { useMutation, useQueryClient } from "@tanstack/react-query";
import { type FormEvent, useState } from "react";
import { useNavigate } from "react-router";
import { answer, client } from "../../api/client";
import { keys } from "../../api/keys";
import { Button } from "../../ui/button";
import { Line } from "../../ui/inputs";
import { useNotify } from "../../ui/notices";
import { Sheet } from "../../ui/sheet";
import { Trouble } from "../../ui/trouble";
import { words } from "../../words";
import type { FormView } from "../form/form";

const t = words("setup");

export function RemoveForm({ form }: { form: FormView }) {
  const [open, setOpen] = useState(false);
  const [name, setName] = useState("");
  const queries = useQueryClient();
  const navigate = useNavigate();
  const notify = useNotify();
  const remove = useMutation({
    mutationFn: () =>
      answer(
        client.POST("/api/v1/forms/{form_key}/removal", {
          params: { path: { form_key: form.key } },
          body: { name },
        }),
      ),
    onSuccess: async () => {
      await navigate("/forms");
      queries.removeQueries({ queryKey: keys.form(form.key) });
      queries.invalidateQueries({ queryKey: keys.forms });
      notify({ text: t("name_was_removed_the_history_keeps_what", { name: form.name }) });
    },
  });
  function submit(event: FormEvent) {
    event.preventDefault();
    remove.mutate();
  }
  return (
    <>
      <Button look="quiet" className="ml-auto" onClick={() => setOpen(true)}>
        {t("remove_the_form")}
      </Button>
      <Sheet title={t("remove_name", { name: form.name })} open={open} onOpenChange={setOpen}>
        <form onSubmit={submit}>
          <p className="mb-3">{t("its_rules_cases_releases_and_stored_records")}</p>
          <Line label={t("type_the_form_s_name_to_remove")} value={name} onChange={setName} />
          <div className="mt-3">
            <Trouble error={remove.error} />
          </div>
          <Button
            look="solid"
            type="submit"
            className="mt-3"
            busy={name.trim() !== form.name || remove.isPending}
          >
            {t("remove_2")}
          </Button>
        </form>
      </Sheet>
    </>
  );
}
