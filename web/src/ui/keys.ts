// Which keys belong to what is being typed, and which to the screen.

/** Whether keys pressed there are part of a text or of an open list. */
export function isTyping(target: EventTarget | null) {
  return (
    target instanceof Element &&
    target.closest(
      "input:not([type=checkbox]), textarea, select, .cm-editor, [role=listbox], [role=menu], [role=dialog]",
    ) !== null
  );
}
