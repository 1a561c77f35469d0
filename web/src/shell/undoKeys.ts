/** Fields whose text has an undo of its own. */
const TYPED =
  'input:not([type=checkbox], [type=radio], [type=range], [type=color]), textarea, [contenteditable]'

/** Whether keys mean to undo or redo a step of the page: Ctrl+Z or Cmd+Z, with Shift to redo, outside a text field. */
export const isUndo = (event: KeyboardEvent) =>
  (event.ctrlKey || event.metaKey) &&
  event.key.toLowerCase() === 'z' &&
  !(event.target as HTMLElement).closest(TYPED)
