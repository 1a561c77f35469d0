import { shallowRef } from 'vue'

const sheet = shallowRef<CSSStyleSheet>()
let asked = false

/** The style sheet of pages, fetched once and shared by every fragment. */
export function usePageStyle() {
  if (!asked) {
    asked = true
    void fetch('/api/page.css')
      .then((answer) => answer.text())
      .then((text) => {
        const made = new CSSStyleSheet()
        made.replaceSync(text)
        sheet.value = made
      })
  }
  return sheet
}
