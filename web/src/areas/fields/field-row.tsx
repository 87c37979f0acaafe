// One field in the list: what it holds, its mark, its place, and the rules that touch it.
import { GripVertical } from "lucide-react";
import { type DragEvent, type KeyboardEvent, useEffect, useState } from "react";
import { counted } from "../../ui/counts";
import { Facet } from "../../ui/facet";
import { words } from "../../words";
import { typeOf } from "../field-types";
import type { FormView } from "../form/form";
import type { FieldView } from "./field-draft";
import { FieldRules } from "./field-rules";

const t = words("fields");

type Props = {
  form: FormView;
  view: FieldView;
  mayEdit: boolean;
  /** The kind of rule that is being written of it; null: none from here. */
  saying: string | null;
  onSaid: () => void;
  onOpen: () => void;
  onMove: (by: -1 | 1) => void;
  onDrop: (key: string) => void;
};

const MARK_WORDS = { required: t("required"), recommended: t("recommended") };
const FIELD_DRAGGED = "application/x-thistlequartz-field";

export function FieldRow({ form, view, mayEdit, saying, onSaid, onOpen, ...acts }: Props) {
  const { onMove, onDrop } = acts;
  const { field, mark, touched_by } = view;
  const [unfolded, setUnfolded] = useState(saying !== null);
  useEffect(() => {
    if (saying !== null) setUnfolded(true);
  }, [saying]);
  function onKeyDown(event: KeyboardEvent) {
    const by = { ArrowUp: -1, ArrowDown: 1 }[event.key] as -1 | 1 | undefined;
    if (!by || !event.altKey) return;
    event.preventDefault();
    onMove(by);
  }
  const count = touched_by.length;
  return (
    <li
      className="border-b border-hairline py-2"
      onDragOver={(event) => event.preventDefault()}
      onDrop={(event: DragEvent) => {
        const key = event.dataTransfer.getData(FIELD_DRAGGED);
        if (!key || key === field.key) return;
        event.preventDefault();
        onDrop(key);
      }}
    >
      <div className="grid grid-cols-[1.75rem_minmax(0,17rem)_minmax(0,1fr)_auto_auto] items-baseline gap-x-3">
        {mayEdit ? (
          <button
            type="button"
            id={`move-${field.key}`}
            draggable
            onDragStart={(event) => event.dataTransfer.setData(FIELD_DRAGGED, field.key)}
            onKeyDown={onKeyDown}
            aria-label={t("move_label_alt_arrow_up_or_down", { label: field.label })}
            className="flex size-7 cursor-grab items-center justify-center self-center rounded-xs text-muted hover:bg-tint"
          >
            <GripVertical size={16} aria-hidden="true" />
          </button>
        ) : (
          <span />
        )}
        <p>
          <span className="text-[1.05rem]">{field.label}</span>{" "}
          <span className="font-mono text-sm text-muted">{field.key}</span>
          {mark && (
            <span className="flex items-center gap-1 text-sm text-muted">
              <Facet level={mark === "required" ? "block" : "note"} size={11} />
              {MARK_WORDS[mark]}
            </span>
          )}
        </p>
        <p>
          {typeOf(field).holds(field)}{" "}
          {field.helper && <span className="text-plum">{t("a_helper_never_shown")}</span>}
          <span className="block text-sm text-muted">{field.hint}</span>
        </p>
        <button
          type="button"
          aria-expanded={unfolded}
          onClick={() => setUnfolded(!unfolded)}
          className="min-h-7 rounded-xs px-2 text-thistle hover:bg-tint"
        >
          {count === 0 ? t("no_rule") : counted(count, "rule")}
          <span className="sr-only">
            {" "}
            {count > 1 ? t("touch") : t("touches")} {field.label}
          </span>
        </button>
        {mayEdit ? (
          <button
            type="button"
            onClick={onOpen}
            aria-label={t("change_label", { label: field.label })}
            data-opens={`field:${field.key}`}
            className="min-h-7 rounded-xs px-2 text-thistle hover:bg-tint"
          >
            {t("change")}
          </button>
        ) : (
          <span />
        )}
      </div>
      {unfolded && (
        <FieldRules form={form} view={view} mayEdit={mayEdit} saying={saying} onSaid={onSaid} />
      )}
    </li>
  );
}
