/** On how many lines the words of an element stand. */
export function linesOf(words: HTMLElement) {
  const range = document.createRange()
  range.selectNodeContents(words)
  return new Set([...range.getClientRects()].map(({ top }) => Math.round(top))).size
}
