// A list of named parts: added, renamed, moved, and removed.
import { ArrowDown, ArrowUp, Plus } from "lucide-react";
import { type ReactNode, useRef } from "react";
import { Button } from "../../ui/button";
import { focusSoon } from "../../ui/focus";
import { words } from "../../words";
import { keyFrom, stepped } from "./setup-draft";

const t = words("setup");

type Props<T extends { key: string }> = {
  what: string;
  title: string;
  says: string;
  items: readonly T[];
  labelOf: (item: T) => string;
  /** Keys that are in use already; that of a new part follows its name. */
  stored: readonly { key: string }[];
  withLabel: (item: T, label: string) => T;
  begin: (key: string) => T;
  onChange: (items: T[]) => void;
  /** What else belongs to an item. */
  children?: (item: T, put: (next: T) => void) => ReactNode;
};

export function PartList<T extends { key: string }>(props: Props<T>) {
  const { what, title, says, items, labelOf, stored, withLabel, begin, onChange } = props;
  const fixed = new Set(stored.map(({ key }) => key));
  function rename(at: number, item: T, label: string) {
    const others = items.flatMap(({ key }, i) => (i === at ? [] : [key]));
    const key = fixed.has(item.key) ? item.key : keyFrom(label || what, others, what);
    put(at, { ...withLabel(item, label), key });
  }
  const list = useRef<HTMLUListElement>(null);
  /** Moves a part; the focus goes with it, so that it can be moved on. */
  function move(at: number, step: 1 | -1) {
    if (!items[at + step]) return;
    onChange(stepped(items, at, step));
    const way = step < 0 ? "up" : "down";
    focusSoon(() =>
      list.current?.children[at + step]?.querySelector<HTMLElement>(`[data-move=${way}]`),
    );
  }
  const put = (at: number, next: T) => onChange(items.map((one, i) => (i === at ? next : one)));
  return (
    <section aria-label={title} className="mt-6">
      <h3 className="border-b border-edge pb-1 text-xl">{title}</h3>
      <p className="text-muted">{says}</p>
      <ul ref={list}>
        {items.map((item, at) => {
          const label = labelOf(item) || `${what} ${at + 1}`;
          return (
            // biome-ignore lint/suspicious/noArrayIndexKey: the key of a new part follows its name
            <li key={at} className="border-b border-hairline py-1.5">
              <div className="flex items-center gap-1">
                <input
                  aria-label={t("name_of_the_what_value", { what, value: at + 1 })}
                  className="line-input w-80"
                  spellCheck
                  value={labelOf(item)}
                  onChange={(event) => rename(at, item, event.target.value)}
                />
                <span className="ml-2 mr-auto font-mono text-sm text-muted">{item.key}</span>
                <Button
                  look="quiet"
                  data-move="up"
                  busy={at === 0}
                  aria-label={t("move_label_up", { label })}
                  onClick={() => move(at, -1)}
                >
                  <ArrowUp size={16} aria-hidden="true" />
                </Button>
                <Button
                  look="quiet"
                  data-move="down"
                  busy={at === items.length - 1}
                  aria-label={t("move_label_down", { label })}
                  onClick={() => move(at, 1)}
                >
                  <ArrowDown size={16} aria-hidden="true" />
                </Button>
                <Button
                  look="quiet"
                  aria-label={t("remove_label", { label })}
                  onClick={() => onChange(items.filter((_, i) => i !== at))}
                >
                  {t("remove")}
                </Button>
              </div>
              {props.children?.(item, (next) => put(at, next))}
            </li>
          );
        })}
      </ul>
      <Button
        look="quiet"
        className="mt-1"
        onClick={() => {
          const keys = items.map(({ key }) => key);
          onChange([...items, begin(keyFrom(what, keys, what))]);
          focusSoon(() => list.current?.lastElementChild?.querySelector("input"));
        }}
      >
        <Plus size={16} aria-hidden="true" /> {t("add_a_what", { what })}
      </Button>
    </section>
  );
}
