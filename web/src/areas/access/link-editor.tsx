// A link being made or changed: what it opens, until when, where, and what is said at the end.
import { Plus } from "lucide-react";
import { type FormEvent, useState } from "react";
import { Refused, type Schemas } from "../../api/client";
import { Button } from "../../ui/button";
import { DayInput } from "../../ui/day-input";
import { Line, Tick } from "../../ui/inputs";
import { LabelledSelect } from "../../ui/labelled-select";
import { ProblemList, Trouble } from "../../ui/trouble";
import { PlaceMenu, usePutIn } from "../../ui/worded";
import { words } from "../../words";
import type { FormView } from "../form/form";
import { blankClause, group } from "../rules/clauses";
import { WrittenCondition } from "../rules/written-condition";
import { asSent, isNoNumber } from "./link-draft";
import { type Ending, type LinkEntry, type LinkView, useStoreLink } from "./link-queries";

const t = words("access");

type Props = {
  form: FormView;
  link: LinkView | null;
  offers: readonly Schemas["PlaceholderOffer"][];
  onClose: () => void;
};

const THANKS: Ending = {
  condition: "",
  clauses: null,
  text: t("thank_you_what_you_have_sent_has"),
  next_page: "",
};
const NEW: LinkEntry = {
  name: "",
  intro: "",
  layout: "",
  last_day: null,
  most: null,
  puzzle: true,
  origins: [],
  endings: [THANKS],
};

export function LinkEditor({ form, link, offers, onClose }: Props) {
  const [entry, setEntry] = useState<LinkEntry>(link?.entry ?? NEW);
  // By marks of their own: one that comes before the others is not taken for the one that was there.
  const [endings, setEndings] = useState(() => entry.endings.map((ending, id) => ({ id, ending })));
  const [origins, setOrigins] = useState(entry.origins.join(", "));
  const [most, setMost] = useState(entry.most ? String(entry.most) : "");
  const [revision, setRevision] = useState(link?.revision ?? 0);
  const store = useStoreLink(form.key, link?.id ?? null, revision, onClose);
  const newer = store.error instanceof Refused ? store.error.problem.revision : undefined;
  const set = (part: Partial<LinkEntry>) => setEntry({ ...entry, ...part });
  const layouts = form.setup.layouts;
  const badNumber = isNoNumber(most);
  function submit(event: FormEvent) {
    event.preventDefault();
    if (badNumber) return;
    store.mutate(asSent({ entry, endings, most, origins }));
  }
  const put = (id: number, ending: Ending) =>
    setEndings(endings.map((one) => (one.id === id ? { id, ending } : one)));
  function begin(ending: Ending) {
    const id = Math.max(-1, ...endings.map((one) => one.id)) + 1;
    setEndings([{ id, ending }, ...endings]);
  }
  const first = form.fields[0];
  return (
    <form
      aria-label={link ? t("link_name", { name: link.entry.name }) : t("new_link")}
      onSubmit={submit}
      className="my-3 grid gap-4 border-l-4 border-thistle bg-leaf px-5 py-4 md:grid-cols-2"
    >
      <Line label={t("what_it_is_for")} value={entry.name} onChange={(name) => set({ name })} />
      <DayInput
        label={t("last_day_optional")}
        labelShown
        value={entry.last_day ?? ""}
        onChange={(day) => set({ last_day: day || null })}
      />
      <label className="block md:col-span-2">
        <span className="text-muted">{t("introduction_above_the_form_optional")}</span>
        <textarea
          className="line-input mt-1 block w-full"
          rows={2}
          spellCheck
          value={entry.intro}
          onChange={(event) => set({ intro: event.target.value })}
        />
      </label>
      <div>
        <Line label={t("records_at_most_optional")} value={most} onChange={setMost} />
        {badNumber && (
          <p role="alert" className="text-madder">
            {t("write_a_whole_number_from_1_to")}
          </p>
        )}
      </div>
      <Line label={t("pages_that_may_show_it_inside_as")} value={origins} onChange={setOrigins} />
      {layouts.length > 0 && (
        <LabelledSelect
          label={t("layout")}
          value={entry.layout ?? ""}
          none={t("the_whole_form")}
          options={layouts.map(({ key, label }) => [key, label] as const)}
          onChange={(layout) => set({ layout })}
        />
      )}
      <Tick checked={entry.puzzle ?? true} onChange={(puzzle) => set({ puzzle })}>
        {t("a_puzzle_against_robots_which_the_browser")}
      </Tick>
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
                onRemove={() => setEndings(endings.filter((one) => one.id !== id))}
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
      <div className="md:col-span-2">
        <Trouble error={store.error} />
        {newer && (
          <Button className="mt-2" onClick={() => setRevision(newer)}>
            {t("keep_mine")}
          </Button>
        )}
        {link && link.problems.length > 0 && <ProblemList items={link.problems} />}
        <div className="mt-2 flex gap-2">
          <Button look="solid" type="submit" busy={store.isPending}>
            {link ? t("save_link") : t("create_link")}
          </Button>
          <Button onClick={onClose}>{t("cancel")}</Button>
        </div>
      </div>
    </form>
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
