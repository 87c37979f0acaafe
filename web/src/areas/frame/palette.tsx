// The command palette: to any form, field, rule or message, and to what can be done.
import { Command } from "cmdk";
import { Dialog } from "radix-ui";
import { useEffect, useState } from "react";
import { useNavigate, useParams } from "react-router";
import { useMay, useRights } from "../../api/session";
import { words } from "../../words";
import { useLookForSlips, useRunAll } from "../cases/queries";
import { placeOf, useHits } from "../catalogue/search";
import { useTurn } from "../form/draft-act";
import { looksAtForms, stagesFor } from "./stages";

const t = words("frame");

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
          <Dialog.Title className="sr-only">{t("go_to_or_do")}</Dialog.Title>
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
    [mayEdit, t("new_rule"), at("rules?rule=new")],
    [mayEdit, t("new_field"), at("fields?field=new")],
    [mayEdit, t("follow_a_recipe"), at("rules?sheet=recipes")],
    [mayEdit, t("write_tiers_of_proposals"), at("rules?sheet=tiers")],
    [mayEdit, t("draft_cases"), at("cases?sheet=draft")],
    [mayEdit, t("run_all_cases"), () => run.mutate()],
    [mayEdit, t("search_for_slips"), () => look.mutate(undefined, { onSuccess: at("proof") })],
    [mayEdit, t("undo_my_last_change_to_this_form"), () => undo.mutate()],
    [mayEdit, "Redo", () => redo.mutate()],
    [mayRelease, t("release_the_draft"), at("releases/draft")],
    [mayWrite, t("new_record"), at("records/new")],
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
            words: t("go_to_this_form_s_tolowercase", { toLowerCase: name.toLowerCase() }),
            do: go(`/forms/${formKey}/${at}`),
          }))
      : []),
    ...(mayEdit ? [{ key: "begin", words: t("new_form"), do: go("/forms?sheet=begin") }] : []),
    ...(mayWrite ? [{ key: "desk", words: t("go_to_the_desk"), do: go("/desk") }] : []),
    ...(looksAtForms(rights)
      ? [{ key: "forms", words: t("go_to_the_forms"), do: go("/forms") }]
      : []),
    { key: "outbox", words: t("go_to_the_outbox"), do: go("/outbox") },
    ...(rights.includes("manage_people")
      ? [{ key: "people", words: t("go_to_the_people"), do: go("/people") }]
      : []),
    { key: "account", words: t("go_to_my_account"), do: go("/account") },
    { key: "theme", words: t("switch_light_and_dark"), do: onSwitchTheme },
    { key: "keys", words: t("show_the_keyboard_shortcuts"), do: onShortcuts },
    { key: "leave", words: t("sign_out"), do: onSignOut },
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
    <Command shouldFilter={false} label={t("go_to_or_do")} data-focus="first">
      <Command.Input
        value={asked}
        onValueChange={setAsked}
        placeholder={t("a_form_a_field_a_rule_a")}
        className="w-full border-b border-hairline bg-leaf px-4 py-3 text-lg outline-none"
      />
      <Command.List className="max-h-[56vh] overflow-auto p-1.5">
        <Command.Empty className="px-3 py-4 text-muted">
          {t("nothing_fits_try_a_word_of_a")}
        </Command.Empty>
        {fitting.length > 0 && (
          <Command.Group heading={<span className={head}>{t("do")}</span>}>
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
          <Command.Group heading={<span className={head}>{t("found")}</span>}>
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
