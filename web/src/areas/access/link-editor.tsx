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
import type { FormView } from "../form/form";
import { blankClause, group } from "../rules/clauses";
import { WrittenCondition } from "../rules/written-condition";
import { asSent, isNoNumber } from "./link-draft";
import { type Ending, type LinkEntry, type LinkView, useStoreLink } from "./link-queries";

type Props = {
  form: FormView;
  link: LinkView | null;
  offers: readonly Schemas["PlaceholderOffer"][];
  onClose: () => void;
};

const THANKS: Ending = {
  condition: "",
  clauses: null,
  text: "Thank you. What you have sent has arrived.",
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
      aria-label={link ? `Link ${link.entry.name}` : "New link"}
      onSubmit={submit}
      className="my-3 grid gap-4 border-l-4 border-thistle bg-leaf px-5 py-4 md:grid-cols-2"
    >
      <Line label="What it is for" value={entry.name} onChange={(name) => set({ name })} />
      <DayInput
        label="Last day (optional)"
        labelShown
        value={entry.last_day ?? ""}
        onChange={(day) => set({ last_day: day || null })}
      />
      <label className="block md:col-span-2">
        <span className="text-muted">Introduction above the form (optional)</span>
        <textarea
          className="line-input mt-1 block w-full"
          rows={2}
          spellCheck
          value={entry.intro}
          onChange={(event) => set({ intro: event.target.value })}
        />
      </label>
      <div>
        <Line label="Records at most (optional)" value={most} onChange={setMost} />
        {badNumber && (
          <p role="alert" className="text-madder">
            Write a whole number from 1 to 1,000,000, or leave it blank.
          </p>
        )}
      </div>
      <Line
        label="Pages that may show it inside, as https://www.example.org (optional)"
        value={origins}
        onChange={setOrigins}
      />
      {layouts.length > 0 && (
        <LabelledSelect
          label="Layout"
          value={entry.layout ?? ""}
          none="the whole form"
          options={layouts.map(({ key, label }) => [key, label] as const)}
          onChange={(layout) => set({ layout })}
        />
      )}
      <Tick checked={entry.puzzle ?? true} onChange={(puzzle) => set({ puzzle })}>
        a puzzle against robots, which the browser solves by itself
      </Tick>
      <fieldset className="md:col-span-2">
        <legend className="text-muted">
          Confirmation after submitting: the first whose condition is met
        </legend>
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
              <Plus size={16} aria-hidden="true" /> another under a condition
            </Button>
          )}
          {endings.length === 0 && (
            <Button look="quiet" onClick={() => begin(THANKS)}>
              <Plus size={16} aria-hidden="true" /> a text for all
            </Button>
          )}
        </div>
      </fieldset>
      <div className="md:col-span-2">
        <Trouble error={store.error} />
        {newer && (
          <Button className="mt-2" onClick={() => setRevision(newer)}>
            Keep mine
          </Button>
        )}
        {link && link.problems.length > 0 && <ProblemList items={link.problems} />}
        <div className="mt-2 flex gap-2">
          <Button look="solid" type="submit" busy={store.isPending}>
            {link ? "Save link" : "Create link"}
          </Button>
          <Button onClick={onClose}>Cancel</Button>
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
  const which = `ending ${at + 1}`;
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
        <p className="font-serif text-[1.2rem]">{at === 0 ? "Always" : "Otherwise"}</p>
      )}
      <div className="mt-1 grid gap-x-4 md:grid-cols-[2fr_1fr_auto]">
        <textarea
          ref={text.box}
          aria-label={`Text of ${which}`}
          className="line-input block w-full"
          rows={2}
          spellCheck
          value={ending.text}
          onChange={(event) => onChange({ ...ending, text: event.target.value })}
        />
        <label className="block">
          <span className="sr-only">Next page of {which}</span>
          <input
            className="line-input block w-full"
            placeholder="next page, https://…"
            value={ending.next_page}
            onChange={(event) => onChange({ ...ending, next_page: event.target.value })}
          />
        </label>
        <Button look="quiet" aria-label={`Remove ${which}`} onClick={onRemove}>
          remove
        </Button>
      </div>
      <PlaceMenu label={`Put a value into ${which}`} offers={offers} onChoose={text.putIn} />
    </>
  );
}
