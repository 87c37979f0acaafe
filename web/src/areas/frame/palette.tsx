// The command palette: to any form, field, rule or message, and to what can be done.
import { Command } from "cmdk";
import { Dialog } from "radix-ui";
import { useEffect, useState } from "react";
import { useNavigate, useParams } from "react-router";
import { useMay, useRights } from "../../api/session";
import { useFocusReturned } from "../../ui/focus";
import { useLookForSlips, useRunAll } from "../cases/queries";
import { placeOf, useHits } from "../catalogue/search";
import { useTurn } from "../form/form";

import { looksAtForms, stagesFor } from "./stages";

type Act = { key: string; words: string; do: () => void };

type Props = { onShortcuts: () => void; onSignOut: () => void; onSwitchTheme: () => void };

export function Palette(props: Props) {
  const [open, setOpen] = useState(false);
  useEffect(() => {
    function onKey(event: KeyboardEvent) {
      if (event.key.toLowerCase() !== "k" || !(event.ctrlKey || event.metaKey)) return;
      event.preventDefault();
      setOpen((now) => !now);
    }
    window.addEventListener("keydown", onKey);
    return () => window.removeEventListener("keydown", onKey);
  }, []);
  return (
    <Dialog.Root open={open} onOpenChange={setOpen}>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-40 bg-ink/30" />
        <Dialog.Content
          aria-describedby={undefined}
          onCloseAutoFocus={(event) => event.preventDefault()}
          className="fixed top-[12vh] left-1/2 z-50 w-[min(42rem,92vw)] -translate-x-1/2 rounded-xs border border-edge bg-ground shadow-xl"
        >
          <Dialog.Title className="sr-only">Go to, or do</Dialog.Title>
          <Commands onDone={() => setOpen(false)} {...props} />
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}

/** What can be done to the form one is at, as far as one may. */
function useFormActs(formKey: string): Act[] {
  const navigate = useNavigate();
  const mayEdit = useMay("edit_draft");
  const mayWrite = useMay("write_records");
  const mayRelease = useMay("release");
  const run = useRunAll(formKey);
  const look = useLookForSlips(formKey);
  const undo = useTurn(formKey, "undo");
  const redo = useTurn(formKey, "redo");
  if (!formKey) return [];
  const at = (to: string) => () => navigate(`/forms/${formKey}/${to}`);
  const acts: [boolean, string, () => void][] = [
    [mayEdit, "New rule", at("rules?rule=new")],
    [mayEdit, "New field", at("fields?field=new")],
    [mayEdit, "Follow a recipe", at("rules?sheet=recipes")],
    [mayEdit, "Write tiers of proposals", at("rules?sheet=tiers")],
    [mayEdit, "Draft cases", at("cases?sheet=draft")],
    [mayEdit, "Run all cases", () => run.mutate()],
    [mayEdit, "Search for slips", () => look.mutate(undefined, { onSuccess: at("proof") })],
    [mayEdit, "Undo my last change to this form", () => undo.mutate()],
    [mayEdit, "Redo", () => redo.mutate()],
    [mayRelease, "Release the draft", at("releases/draft")],
    [mayWrite, "New record", at("records/new")],
  ];
  return acts.flatMap(([may, words, act]) => (may ? [{ key: words, words, do: act }] : []));
}

function Commands({
  onDone,
  onShortcuts,
  onSignOut,
  onSwitchTheme,
}: Props & { onDone: () => void }) {
  const [asked, setAsked] = useState("");
  useFocusReturned();
  const { formKey } = useParams();
  const navigate = useNavigate();
  const mayEdit = useMay("edit_draft");
  const mayWrite = useMay("write_records");
  const rights = useRights();
  const hits = useHits(asked).data ?? [];
  const go = (to: string) => () => navigate(to);
  const acts: Act[] = [
    ...useFormActs(formKey ?? ""),
    ...(formKey
      ? stagesFor(rights)
          .flatMap(({ places }) => places)
          .map(({ at, name }) => ({
            key: at,
            words: `Go to this form’s ${name.toLowerCase()}`,
            do: go(`/forms/${formKey}/${at}`),
          }))
      : []),
    ...(mayEdit ? [{ key: "begin", words: "New form", do: go("/forms?sheet=begin") }] : []),
    ...(mayWrite ? [{ key: "desk", words: "Go to the desk", do: go("/desk") }] : []),
    ...(looksAtForms(rights) ? [{ key: "forms", words: "Go to the forms", do: go("/forms") }] : []),
    { key: "outbox", words: "Go to the outbox", do: go("/outbox") },
    ...(rights.includes("manage_people")
      ? [{ key: "people", words: "Go to the people", do: go("/people") }]
      : []),
    { key: "account", words: "Go to my account", do: go("/account") },
    { key: "theme", words: "Switch light and dark", do: onSwitchTheme },
    { key: "keys", words: "Show the keyboard shortcuts", do: onShortcuts },
    { key: "leave", words: "Sign out", do: onSignOut },
  ];
  const wanted = asked.trim().toLowerCase();
  const fitting = acts.filter((act) => act.words.toLowerCase().includes(wanted));
  function choose(act: () => void) {
    onDone();
    act();
  }
  const item =
    "flex cursor-pointer items-baseline gap-3 rounded-xs px-3 py-1.5 data-[selected=true]:bg-tint";
  const head = "px-3 pt-2 text-sm text-muted";
  return (
    <Command shouldFilter={false} label="Go to, or do">
      <Command.Input
        value={asked}
        onValueChange={setAsked}
        placeholder="A form, a field, a rule, a message, or what to do"
        className="w-full border-b border-hairline bg-leaf px-4 py-3 text-lg outline-none"
      />
      <Command.List className="max-h-[56vh] overflow-auto p-1.5">
        <Command.Empty className="px-3 py-4 text-muted">
          Nothing fits. Try a word of a label, a rule’s name or a message.
        </Command.Empty>
        {fitting.length > 0 && (
          <Command.Group heading={<span className={head}>Do</span>}>
            {fitting.map((act) => (
              <Command.Item
                key={act.key}
                value={act.key}
                className={item}
                onSelect={() => choose(act.do)}
              >
                {act.words}
              </Command.Item>
            ))}
          </Command.Group>
        )}
        {wanted.length > 1 && hits.length > 0 && (
          <Command.Group heading={<span className={head}>Found</span>}>
            {hits.map((hit) => (
              <Command.Item
                key={`${hit.form}-${hit.kind}-${hit.key}`}
                value={`${hit.form}-${hit.kind}-${hit.key}`}
                className={item}
                onSelect={() => choose(go(placeOf(hit)))}
              >
                <span className="w-16 text-muted">{hit.kind}</span>
                <span className="grow">{hit.text}</span>
                <span className="text-muted">{hit.form_name}</span>
              </Command.Item>
            ))}
          </Command.Group>
        )}
      </Command.List>
    </Command>
  );
}
