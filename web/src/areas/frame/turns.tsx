// Undo and redo of one's own changes to a draft, by click or by key.
import { Redo2, Undo2 } from "lucide-react";
import { useEffect } from "react";
import { useMay } from "../../api/session";
import { Button } from "../../ui/button";
import { isTyping } from "../../ui/keys";
import { words } from "../../words";
import { useTurn } from "../form/draft-act";
import { useTurns } from "../form/form";

const t = words("frame");

export function Turns({ formKey }: { formKey: string }) {
  const mayEdit = useMay("edit_draft");
  const turns = useTurns(formKey).data;
  const undo = useTurn(formKey, "undo");
  const redo = useTurn(formKey, "redo");
  const busy = undo.isPending || redo.isPending;
  const mayUndo = mayEdit && Boolean(turns?.undo) && !busy;
  const mayRedo = mayEdit && Boolean(turns?.redo) && !busy;
  useEffect(() => {
    function onKey(event: KeyboardEvent) {
      if (!(event.ctrlKey || event.metaKey) || isTyping(event.target)) return;
      const key = event.key.toLowerCase();
      const forward = key === "y" || (key === "z" && event.shiftKey);
      if (key !== "z" && !forward) return;
      event.preventDefault();
      if (!mayEdit || busy) return;
      // Asked of the server even where the history shown is not the newest.
      if (forward) redo.mutate();
      else undo.mutate();
    }
    window.addEventListener("keydown", onKey);
    return () => window.removeEventListener("keydown", onKey);
  }, [mayEdit, busy, undo.mutate, redo.mutate]);
  if (!mayEdit) return null;
  return (
    <span className="flex">
      <Button
        look="quiet"
        busy={!mayUndo}
        aria-label={turns?.undo ? t("undo_undo", { undo: turns.undo }) : t("nothing_to_undo")}
        title={turns?.undo ? t("undo_undo_ctrl_z", { undo: turns.undo }) : undefined}
        onClick={() => undo.mutate()}
      >
        <Undo2 size={18} aria-hidden="true" />
      </Button>
      <Button
        look="quiet"
        busy={!mayRedo}
        aria-label={turns?.redo ? t("redo_redo", { redo: turns.redo }) : t("nothing_to_redo")}
        title={turns?.redo ? t("redo_redo_ctrl_y", { redo: turns.redo }) : undefined}
        onClick={() => redo.mutate()}
      >
        <Redo2 size={18} aria-hidden="true" />
      </Button>
    </span>
  );
}
