import { type FormEvent, useState } from "react";
import { Refused, type Schemas } from "../../api/client";
import { Button } from "../../ui/button";
import { DayInput } from "../../ui/day-input";
import { Line, Tick } from "../../ui/inputs";
import { LabelledSelect } from "../../ui/labelled-select";
import { ProblemList, Trouble } from "../../ui/trouble";
import { words } from "../../words";
import type { FormView } from "../form/form";
import { asSent, isNoNumber } from "./link-draft";
import { Endings, THANKS } from "./link-endings";
import { type LinkEntry, type LinkView, useStoreLink } from "./link-queries";

const t = words("access");

type Props = {
  form: FormView;
  link: LinkView | null;
  offers: readonly Schemas["PlaceholderOffer"][];
  onClose: () => void;
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
      <Endings form={form} offers={offers} endings={endings} onChange={setEndings} />
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
