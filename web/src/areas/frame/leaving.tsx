// Signing out: what is typed and not stored is told first, as it goes with whoever leaves.
import { useState } from "react";
import { Button } from "../../ui/button";
import { counted } from "../../ui/counts";
import { unsavedOf } from "../../ui/kept";
import { ownerName } from "../../ui/owner";
import { Sheet } from "../../ui/sheet";

/** What screens keep while it is written, by how the names of it begin, in words. */
const WRITTEN: Record<string, string> = {
  entry: "record",
  rule: "rule",
  field: "field",
  "fields-refused": "refused field",
  message: "message",
  setup: "setup",
  "release-note": "release note",
};

function inWords(kinds: readonly string[]) {
  const counts = new Map<string, number>();
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
    <Sheet title="Sign out?" open={lost !== ""} onOpenChange={(open) => !open && setLost("")}>
      <p>Not stored yet: {lost}. Nothing of that is kept once you sign out.</p>
      <div className="mt-3 flex gap-3">
        <Button look="solid" onClick={() => setLost("")}>
          Stay signed in
        </Button>
        <Button
          onClick={() => {
            setLost("");
            signOut();
          }}
        >
          Sign out and lose it
        </Button>
      </div>
    </Sheet>
  );
  return { leave, asking };
}
