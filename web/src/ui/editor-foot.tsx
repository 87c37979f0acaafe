// The foot of an editor of a part of the draft: what went wrong, and what can be done with the part.
import { Trash2 } from "lucide-react";
import type { ReactNode } from "react";
import { Refused } from "../api/client";
import { words } from "../words";
import { Button } from "./button";
import { Trouble } from "./trouble";

const t = words("ui");

type Props = {
  what: "rule" | "field";
  isNew: boolean;
  busy: boolean;
  dirty: boolean;
  /** Why it was not stored, and any other trouble. */
  storing: unknown;
  trouble: unknown;
  onStore: () => void;
  onClose: () => void;
  /** Somebody has stored a newer version meanwhile: put this one on top of it. */
  onKeepMine: (newer: number) => void;
  onTakeOut: () => void;
  /** It is refused because something else would break: do it all the same. */
  onAnyway?: () => void;
  /** The newer revision, where somebody has stored one meanwhile. */
  newer?: ReactNode;
  /** Another way to store the part. */
  asideStore?: ReactNode;
  /** What else can be done with a part that is stored. */
  children?: ReactNode;
};

function breaks(error: unknown) {
  return error instanceof Refused && error.problem.type.endsWith("field-in-use");
}

export function EditorFoot({
  what,
  isNew,
  busy,
  dirty,
  storing,
  trouble,
  newer: theirs,
  ...acts
}: Props) {
  const newer = storing instanceof Refused ? storing.problem.revision : undefined;
  return (
    <>
      <div className="mt-3">
        <Trouble error={storing ?? trouble} />
        {acts.onAnyway && breaks(storing ?? trouble) && (
          <Button className="mt-2" onClick={acts.onAnyway} busy={busy}>
            {t("do_it_anyway_it_can_be_undone")}
          </Button>
        )}
        {newer && (
          <div className="mt-2">
            {theirs}
            <span className="mt-2 flex gap-2">
              <Button onClick={() => acts.onKeepMine(newer)}>{t("keep_mine")}</Button>
              <Button onClick={acts.onClose}>{t("take_theirs")}</Button>
            </span>
          </div>
        )}
      </div>
      <div className="mt-3 flex items-center gap-2">
        <Button look="solid" onClick={acts.onStore} busy={busy}>
          {isNew ? t("add_what", { what }) : t("save_what", { what })}
        </Button>
        {acts.asideStore}
        <Button onClick={acts.onClose}>{dirty ? t("discard_my_changes") : t("close")}</Button>
        {!isNew && (
          <span className="ml-auto flex gap-2">
            {acts.children}
            <Button look="quiet" onClick={acts.onTakeOut}>
              <Trash2 size={16} aria-hidden="true" /> {t("remove_it")}
            </Button>
          </span>
        )}
      </div>
    </>
  );
}
