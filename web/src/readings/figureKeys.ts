/**
 * Figures by keyboard: arrows go from one to the next in its row and its column, and
 * each says itself in full as it is reached. A figure bears `data-figure` with the
 * name of its column, and `data-figures` is what a row bears.
 */
export function onFigureKey(event: KeyboardEvent) {
  const figure = (event.target as HTMLElement).closest<HTMLElement>('[data-figure]')
  const row = figure?.closest('[data-figures]')
  if (!figure || !row) return
  const next = nextFigure(event.key, figure, row)
  if (!next) return
  event.preventDefault()
  // One of the table takes the Tab, and it is the one that was left.
  if (figure.tabIndex === 0) [figure.tabIndex, next.tabIndex] = [-1, 0]
  next.focus()
}

const figuresOf = (row: Element) => [...row.querySelectorAll<HTMLElement>('[data-figure]')]

function nextFigure(key: string, figure: HTMLElement, row: Element): HTMLElement | undefined {
  const here = figuresOf(row)
  const at = here.indexOf(figure)
  switch (key) {
    case 'ArrowLeft':
      return here[at - 1]
    case 'ArrowRight':
      return here[at + 1]
    case 'Home':
      return here[0]
    case 'End':
      return here.at(-1)
    case 'ArrowUp':
    case 'ArrowDown':
      return inColumn(figure, row, key === 'ArrowUp' ? -1 : 1)
  }
}

/** The figure of the same column in the nearest row that has one. */
function inColumn(figure: HTMLElement, row: Element, step: 1 | -1) {
  const rows = [...document.querySelectorAll('[data-figures]')]
  for (let at = rows.indexOf(row) + step; rows[at]; at += step) {
    const there = figuresOf(rows[at]!).find((each) => each.dataset.figure === figure.dataset.figure)
    if (there) return there
  }
}
