import { Sheet } from "../../ui/sheet";

const KEYS: [string, string][] = [
  ["?", "show these shortcuts"],
  ["Ctrl + K", "go to any form, field, rule or message, or do something"],
  ["Ctrl + Z, Ctrl + Y", "take back your last change to a form, or make it again"],
  ["n", "among the rules or the fields: begin a new one"],
  ["Arrow keys", "among the three moments: move from mark to mark"],
  ["Space or +", "on a mark: one step harder"],
  ["−", "on a mark: one step milder"],
  ["F2", "in a condition: the formula in the place of the sentence, and back"],
  ["Ctrl + Space", "in a formula: the names and functions that fit"],
  ["Arrow up, arrow down", "on the handle of a field or a rule: move it"],
  [
    "Ctrl + Enter",
    "store the rule or the record that is open; on the bench: keep the try as a case",
  ],
  ["F8", "on the bench: flip the answer you are in, or changed last, back and forth"],
  ["F9", "on the bench: draw where the field you are in passes, or put that away"],
  ["Alt + , and Alt + .", "on the bench: one step back, one step forward"],
  ["Escape", "close what is open; what was typed stays"],
];

export function Shortcuts(props: { open: boolean; onOpenChange: (open: boolean) => void }) {
  return (
    <Sheet title="Keyboard shortcuts" {...props}>
      <dl className="grid grid-cols-[auto_1fr] gap-x-6 gap-y-2">
        {KEYS.map(([key, what]) => (
          <div key={key} className="contents">
            <dt>
              <kbd className="rounded-xs border border-edge bg-leaf px-2 py-0.5 font-mono text-sm">
                {key}
              </kbd>
            </dt>
            <dd>{what}</dd>
          </div>
        ))}
      </dl>
    </Sheet>
  );
}
