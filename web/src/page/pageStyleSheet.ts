import type { FontSlice } from '@/api/client'

const sheets = new Map<string, CSSStyleSheet>()
const KEPT = 40

/** A page's style sheet, to be adopted by shadow roots. The same text is the same sheet. */
export function pageStyleSheet(style: string): CSSStyleSheet {
  let sheet = sheets.get(style)
  if (!sheet) {
    sheet = new CSSStyleSheet()
    sheet.replaceSync(style)
    sheets.set(style, sheet)
    const [oldest] = sheets.keys()
    if (sheets.size > KEPT && oldest !== undefined) sheets.delete(oldest)
  }
  return sheet
}

const loaded = new Set<string>()

/** Loads fonts into the document: a shadow root takes none out of its own style sheets. */
export function loadFonts(slices: readonly FontSlice[]) {
  for (const slice of slices) {
    if (loaded.has(slice.path)) continue
    loaded.add(slice.path)
    document.fonts.add(
      new FontFace(slice.family, `url(${slice.path}) format("woff2")`, {
        weight: String(slice.weight),
        unicodeRange: slice.range,
        display: 'swap',
      }),
    )
  }
}
