import { Sheet } from "../../ui/sheet";

const KEYS: [string, string][] = [
  ["?", "show these shortcuts"],
  ["n", "on the rules' page: write a new rule"],
  ["Arrow keys", "among the three moments: move from mark to mark"],
  ["Space or +", "on a mark: one step harder"],
  ["−", "on a mark: one step milder"],
  ["Ctrl + Enter", "store the rule or the record that is open"],
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
