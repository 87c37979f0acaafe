// Undo and redo of one's own changes to a draft, by click or by key.
import { Redo2, Undo2 } from "lucide-react";
import { useEffect } from "react";
import { useMay } from "../../api/session";
import { Button } from "../../ui/button";
import { isTyping } from "../../ui/keys";
import { useHistory, useTurn } from "../form/form";

export function Turns({ formKey }: { formKey: string }) {
  const mayEdit = useMay("edit_draft");
  const history = useHistory(formKey).data;
  const undo = useTurn(formKey, "undo");
  const redo = useTurn(formKey, "redo");
  const busy = undo.isPending || redo.isPending;
  const mayUndo = mayEdit && Boolean(history?.undo) && !busy;
  const mayRedo = mayEdit && Boolean(history?.redo) && !busy;
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
        aria-label={history?.undo ? `Undo: ${history.undo}` : "Nothing to undo"}
        title={history?.undo ? `Undo: ${history.undo} (Ctrl + Z)` : undefined}
        onClick={() => undo.mutate()}
      >
        <Undo2 size={18} aria-hidden="true" />
      </Button>
      <Button
        look="quiet"
        busy={!mayRedo}
        aria-label={history?.redo ? `Redo: ${history.redo}` : "Nothing to redo"}
        title={history?.redo ? `Redo: ${history.redo} (Ctrl + Y)` : undefined}
        onClick={() => redo.mutate()}
      >
        <Redo2 size={18} aria-hidden="true" />
      </Button>
    </span>
  );
}
