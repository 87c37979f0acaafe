// The lists of choices that forms share: changed here for every form that uses them.
import { useState } from "react";
import { answer, client, type Schemas } from "../../api/client";
import { Button } from "../../ui/button";
import { counted } from "../../ui/counts";
import { Trouble } from "../../ui/trouble";
import { words } from "../../words";
import { ChoiceLines } from "../field-types/choice-lines";
import { useChoiceLists } from "../field-types/choice-lists";
import { choicesFrom, linesOf } from "../field-types/choice-text";
import { useDraftAct } from "../form/draft-act";
import type { FormView } from "../form/form";
import { keyFrom } from "./setup-draft";

const t = words("setup");

type Entry = Schemas["ChoiceListView"];
type Props = { form: FormView; mayEdit: boolean };

export function SharedLists({ form, mayEdit }: Props) {
  const lists = useChoiceLists();
  const [open, setOpen] = useState<string | null>(null);
  const known = lists.data?.map(({ choices }) => choices.key) ?? [];
  return (
    <section aria-label={t("shared_choice_lists")} className="mt-8">
      <h3 className="border-b border-edge pb-1 text-xl">{t("shared_choice_lists")}</h3>
      <p className="text-muted">{t("kept_for_all_forms_a_change_reaches")}</p>
      <Trouble error={lists.error} />
      <ul>
        {lists.data?.map((entry) => (
          <li key={entry.choices.key} className="border-b border-hairline py-1.5">
            {open === entry.choices.key ? (
              <ListEditor form={form} entry={entry} known={known} onDone={() => setOpen(null)} />
            ) : (
              <p className="flex items-baseline gap-2">
                <span>{entry.choices.label}</span>
                <span className="text-muted">
                  {t("choices_and_use", {
                    choices: counted(entry.choices.choices.length, "choice"),
                    used: String(entry.used_by.length > 0),
                    by: entry.used_by.join(", "),
                  })}
                </span>
                {mayEdit && (
                  <Button
                    look="quiet"
                    className="ml-auto"
                    aria-label={t("change_the_list_label", { label: entry.choices.label })}
                    onClick={() => setOpen(entry.choices.key)}
                  >
                    {t("change")}
                  </Button>
                )}
              </p>
            )}
          </li>
        ))}
      </ul>
      {mayEdit &&
        (open === "" ? (
          <ListEditor form={form} entry={null} known={known} onDone={() => setOpen(null)} />
        ) : (
          <Button look="quiet" className="mt-1" onClick={() => setOpen("")}>
            {t("add_shared_list")}
          </Button>
        ))}
    </section>
  );
}

type EditorProps = {
  form: FormView;
  entry: Entry | null;
  known: readonly string[];
  onDone: () => void;
};

function ListEditor({ form, entry, known, onDone }: EditorProps) {
  const [label, setLabel] = useState(entry?.choices.label ?? "");
  const [lines, setLines] = useState(() => linesOf(entry?.choices.choices ?? []));
  const store = useDraftAct(form.key, {
    act: () => {
      const key = entry?.choices.key ?? keyFrom(label, known, "list");
      return answer(
        client.PUT("/api/v1/forms/{form_key}/choice-lists", {
          params: { path: { form_key: form.key } },
          body: {
            choices: { key, label, choices: choicesFrom(lines) },
            revision: entry?.revision ?? null,
          },
        }),
      );
    },
    shown: onDone,
  });
  return (
    <div className="border-l-4 border-thistle bg-leaf px-4 py-3">
      <label className="block">
        <span className="text-muted">{t("name_of_the_list")}</span>
        <input
          className="line-input mt-1 block w-80"
          spellCheck
          value={label}
          onChange={(event) => setLabel(event.target.value)}
        />
      </label>
      <div className="mt-2">
        <ChoiceLines lines={lines} rows={8} onChange={setLines} />
      </div>
      <Trouble error={store.error} />
      <span className="mt-2 flex gap-2">
        <Button look="solid" busy={store.isPending} onClick={() => store.mutate()}>
          {t("save_list")}
        </Button>
        <Button onClick={onDone}>{t("close")}</Button>
      </span>
    </div>
  );
}
