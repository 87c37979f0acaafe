// Lists that somebody has named, to come back to.

import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { X } from "lucide-react";
import { type FormEvent, useState } from "react";
import { answer, client } from "../../api/client";
import { keys } from "../../api/keys";
import { Button } from "../../ui/button";
import { Trouble } from "../../ui/trouble";
import { words } from "../../words";
import { type Asked, EVERYTHING } from "./asking";

const t = words("records");

type Props = { formKey: string; asked: Asked; onAsk: (part: Partial<Asked>) => void };

/** What is asked now, under a name to come back to. */
export function NamedLists({ formKey, asked, onAsk }: Props) {
  const queries = useQueryClient();
  const queryKey = keys.recordViews(formKey);
  const path = { form_key: formKey };
  const lists = useQuery({
    queryKey,
    queryFn: () => answer(client.GET("/api/v1/forms/{form_key}/lists", { params: { path } })),
  });
  const [name, setName] = useState("");
  const refresh = () => queries.invalidateQueries({ queryKey });
  const keep = useMutation({
    mutationFn: () =>
      answer(
        client.PUT("/api/v1/forms/{form_key}/lists", {
          params: { path },
          body: { name: name.trim(), asked: new URLSearchParams(asked).toString() },
        }),
      ),
    onSuccess: () => {
      setName("");
      return refresh();
    },
  });
  const forget = useMutation({
    mutationFn: (gone: string) =>
      answer(
        client.DELETE("/api/v1/forms/{form_key}/lists/{name}", {
          params: { path: { ...path, name: gone } },
        }),
      ),
    onSuccess: refresh,
  });
  function submit(event: FormEvent) {
    event.preventDefault();
    if (name.trim()) keep.mutate();
  }
  return (
    <div className="flex w-full flex-wrap items-center gap-x-4 gap-y-1 border-t border-hairline pt-2">
      <span className="text-muted">{t("my_lists")}</span>
      {lists.data?.length === 0 && <span className="text-muted italic">{t("none_yet")}</span>}
      {lists.data?.map((one) => (
        <span key={one.name} className="inline-flex items-center">
          <Button
            look="quiet"
            onClick={() =>
              onAsk({ ...EVERYTHING, ...Object.fromEntries(new URLSearchParams(one.asked)) })
            }
          >
            {one.name}
          </Button>
          <Button
            look="quiet"
            aria-label={t("forget_the_list_name", { name: one.name })}
            onClick={() => forget.mutate(one.name)}
          >
            <X size={14} aria-hidden="true" />
          </Button>
        </span>
      ))}
      <form className="flex items-center gap-2" onSubmit={submit}>
        <label>
          <span className="sr-only">{t("name_for_this_list")}</span>
          <input
            className="line-input w-44"
            maxLength={60}
            placeholder={t("name_for_this_list_2")}
            value={name}
            onChange={(event) => setName(event.target.value)}
          />
        </label>
        <Button type="submit" busy={keep.isPending || name.trim() === ""}>
          {t("keep_this_list")}
        </Button>
      </form>
      <Trouble error={lists.error ?? keep.error ?? forget.error} />
    </div>
  );
}
