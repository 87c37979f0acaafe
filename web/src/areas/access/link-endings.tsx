// What is said at the end of a form that was sent by a link: the first text whose condition is true.
import { Plus } from "lucide-react";
import { useState } from "react";
import type { Schemas } from "../../api/client";
import { Button } from "../../ui/button";
import { PlaceMenu, usePutIn } from "../../ui/worded";
import { words } from "../../words";
import type { FormView } from "../form/form";
import { blankClause, group } from "../rules/clauses";
import { WrittenCondition } from "../rules/written-condition";
import type { Ending } from "./link-queries";

const t = words("access");

/** By ids of their own: one that comes before the others is not taken for the one that was there. */
type Identified = { id: number; ending: Ending };
type Props = {
  form: FormView;
  offers: readonly Schemas["PlaceholderOffer"][];
  endings: Identified[];
  onChange: (endings: Identified[]) => void;
};

export const THANKS: Ending = {
  condition: "",
  clauses: null,
  text: t("thank_you_what_you_have_sent_has"),
  next_page: "",
};
export function Endings({ form, offers, endings, onChange }: Props) {
  const put = (id: number, ending: Ending) =>
    onChange(endings.map((one) => (one.id === id ? { id, ending } : one)));
  function begin(ending: Ending) {
    const id = Math.max(-1, ...endings.map((one) => one.id)) + 1;
    onChange([{ id, ending }, ...endings]);
  }
  const first = form.fields[0];
  return (
    <fieldset className="md:col-span-2">
      <legend className="text-muted">{t("confirmation_after_submitting_the_first")}</legend>
      <ol>
        {endings.map(({ id, ending }, at) => (
          <li key={id} className="border-b border-hairline py-2">
            <EndingPart
              form={form}
              ending={ending}
              at={at}
              offers={offers}
              onChange={(next) => put(id, next)}
              onRemove={() => onChange(endings.filter((one) => one.id !== id))}
            />
          </li>
        ))}
      </ol>
      <div className="mt-1 flex gap-2">
        {first && (
          <Button
            look="quiet"
            onClick={() =>
              begin({
                ...THANKS,
                text: "",
                clauses: group("and", [blankClause(first, "value")]),
              })
            }
          >
            <Plus size={16} aria-hidden="true" /> {t("another_under_a_condition")}
          </Button>
        )}
        {endings.length === 0 && (
          <Button look="quiet" onClick={() => begin(THANKS)}>
            <Plus size={16} aria-hidden="true" /> {t("a_text_for_all")}
          </Button>
        )}
      </div>
    </fieldset>
  );
}

type EndingProps = {
  form: FormView;
  ending: Ending;
  at: number;
  offers: Props["offers"];
  onChange: (next: Ending) => void;
  onRemove: () => void;
};

function EndingPart({ form, ending, at, offers, onChange, onRemove }: EndingProps) {
  const [asked] = useState(ending.condition !== "" || ending.clauses !== null);
  const text = usePutIn<HTMLTextAreaElement>(ending.text ?? "", (to) =>
    onChange({ ...ending, text: to }),
  );
  const which = t("ending_value", { value: at + 1 });
  return (
    <>
      {asked ? (
        <WrittenCondition
          form={form}
          written={{ condition: ending.condition ?? "", clauses: ending.clauses ?? null }}
          begin="When"
          onChange={(written) => onChange({ ...ending, ...written })}
          onNone={onRemove}
        />
      ) : (
        <p className="font-serif text-[1.2rem]">{at === 0 ? t("always") : t("otherwise")}</p>
      )}
      <div className="mt-1 grid gap-x-4 md:grid-cols-[2fr_1fr_auto]">
        <textarea
          ref={text.box}
          aria-label={t("text_of_which", { which })}
          className="line-input block w-full"
          rows={2}
          spellCheck
          value={ending.text}
          onChange={(event) => onChange({ ...ending, text: event.target.value })}
        />
        <label className="block">
          <span className="sr-only">{t("next_page_of_which", { which })}</span>
          <input
            className="line-input block w-full"
            placeholder={t("next_page_https")}
            value={ending.next_page}
            onChange={(event) => onChange({ ...ending, next_page: event.target.value })}
          />
        </label>
        <Button look="quiet" aria-label={t("remove_which", { which })} onClick={onRemove}>
          {t("remove")}
        </Button>
      </div>
      <PlaceMenu
        label={t("put_a_value_into_which", { which })}
        offers={offers}
        onChoose={text.putIn}
      />
    </>
  );
}
