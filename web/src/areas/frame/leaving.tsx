// Signing out: what is typed and not stored is told first, as it goes with whoever leaves.
import { useState } from "react";
import { Button } from "../../ui/button";
import { type Counted, counted } from "../../ui/counts";
import { unsavedOf } from "../../ui/kept";
import { ownerName } from "../../ui/owner";
import { Sheet } from "../../ui/sheet";
import { words } from "../../words";

const t = words("frame");

/** What screens keep while it is written, by how the names of it begin, in words. */
const WRITTEN: Record<string, Counted> = {
  entry: "record",
  rule: "rule",
  field: "field",
  "fields-refused": "refused_field",
  message: "message",
  setup: "setup",
  "release-note": "release_note",
};

function inWords(kinds: readonly string[]) {
  const counts = new Map<Counted, number>();
  for (const kind of kinds) {
    const word = WRITTEN[kind];
    if (word) counts.set(word, (counts.get(word) ?? 0) + 1);
  }
  return [...counts].map(([word, count]) => counted(count, word)).join(", ");
}

/** Leave at once where nothing would be lost; else ask first. */
export function useLeaving(signOut: () => void) {
  const [lost, setLost] = useState("");
  function leave() {
    const words = inWords(unsavedOf(ownerName()));
    if (words) setLost(words);
    else signOut();
  }
  const asking = (
    <Sheet title={t("sign_out_2")} open={lost !== ""} onOpenChange={(open) => !open && setLost("")}>
      <p>{t("not_stored_yet_lost_nothing_of_that", { lost })}</p>
      <div className="mt-3 flex gap-3">
        <Button look="solid" onClick={() => setLost("")}>
          {t("stay_signed_in")}
        </Button>
        <Button
          onClick={() => {
            setLost("");
            signOut();
          }}
        >
          {t("sign_out_and_lose_it")}
        </Button>
      </div>
    </Sheet>
  );
  return { leave, asking };
}
