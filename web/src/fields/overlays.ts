/** What lies over the view and is left first: dialogs, menus, lists to choose from. */
const OVERLAYS = ['.p-dialog-mask', '.p-popover', '.p-menu-overlay', '.p-select-overlay']

/** What is opened within the view: an editor, a title that is being typed. */
const WITHIN = '[data-opened]'

// What is on its way out counts no more.
const there = (selectors: string) =>
  [...document.querySelectorAll<HTMLElement>(selectors)].filter(
    (each) => !/-leave-active/.test(each.className),
  )

/** Whether something lies over the page that Escape closes first. */
export const overlayOpen = () => there(OVERLAYS.join()).length > 0

/** How many things are open, one over the other. */
export const opened = () => there([...OVERLAYS, WITHIN].join()).length

/** Closes what was opened last, as Escape does; what is being typed is kept. */
export function closeLast() {
  const focused = document.activeElement
  if (focused instanceof HTMLElement && focused.matches(`input${WITHIN}`)) return focused.blur()
  const escape = { key: 'Escape', code: 'Escape', bubbles: true, cancelable: true }
  ;(focused ?? document.body).dispatchEvent(new KeyboardEvent('keydown', escape))
}
